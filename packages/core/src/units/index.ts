export * from './result.js';
export * from './estimate.js';
