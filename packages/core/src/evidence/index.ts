export * from './evidence.js';
export * from './signonTimes.js';
