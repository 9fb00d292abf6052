export * from './handing.js';
export * from './timeline.js';
export * from './steps.js';
export * from './storm.js';
export * from './shortcuts.js';
export * from './har.js';
export * from './harRules.js';
