export * from './model.js';
export * from './over.js';
export type { Completing, ModelOptions } from './parts.js';
export type { ObjectOf, Objects } from './lookups.js';
export * from './difference.js';
export * from './faultsOfEstate.js';
export * from './together.js';
export { crossingId, usersOf, type CrossingRef } from './crossings.js';
export { faultOfObject } from './faultOfObject.js';
