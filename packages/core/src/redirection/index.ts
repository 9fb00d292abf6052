export * from './usb/index.js';
export * from './rules.js';
export * from './ruleSteps.js';
export * from './matrix.js';
export * from './seen.js';
