export * from './age.js';
export * from './evidence.js';
export * from './signonTimes.js';
