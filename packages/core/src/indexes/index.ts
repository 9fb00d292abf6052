export * from './layers.js';
export * from './keyed.js';
export * from './steps.js';
