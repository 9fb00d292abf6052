export * from './timeline.js';
export * from './steps.js';
