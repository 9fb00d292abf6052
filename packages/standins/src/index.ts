export * from './line/line.js';
export * from './line/shaper.js';
export * from './line/demoLines.js';
export * from './device/addresses.js';
export * from './device/device.js';
export * from './device/fleet.js';
export * from './portal/client.js';
export * from './portal/portal.js';
export { offeredAt } from './portal/reading.js';
