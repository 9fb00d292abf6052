export * from './eModel.js';
export * from './carriage.js';
