export { aged, ageInDays, freshDays, halvesInDays, weightOf, weightStepsOn } from './age.js';
export * from './evidence.js';
export * from './signonTimes.js';
