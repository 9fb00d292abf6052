export * from './layers.js';
export * from './keyed.js';
