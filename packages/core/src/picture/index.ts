export * from './content.js';
export * from './demand.js';
export * from './lineFrames.js';
export * from './frameTimes.js';
export * from './lossFrames.js';
