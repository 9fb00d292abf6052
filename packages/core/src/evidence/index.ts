export { aged, ageInDays, weightOf, weightStepsOn, type AgeRule } from './age.js';
export * from './evidence.js';
export * from './signonTimes.js';
export * from './capture/index.js';
export { learnedOf, type Learned } from './learned.js';
