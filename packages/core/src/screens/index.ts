export * from './levels.js';
export * from './decoding.js';
export * from './ports.js';
export * from './timing.js';
export * from './clientLimits.js';
export * from './edid/index.js';
export * from './desk/index.js';
