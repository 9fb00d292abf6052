export * from './device.js';
export * from './binary.js';
export * from './lsusb.js';
export * from './functions.js';
