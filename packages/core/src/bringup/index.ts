export * from './dhcp/index.js';
export * from './configFile/index.js';
export { versionOrder } from './versionOrder.js';
export * from './boot/index.js';
export * from './transfer/index.js';
export * from './wifi/index.js';
export * from './image/index.js';
export * from './cost/index.js';
export * from './recipe/index.js';
