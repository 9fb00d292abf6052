export * from './model.js';
export * from './difference.js';
export * from './faultsOfEstate.js';
export * from './together.js';
