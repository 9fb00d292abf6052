export * from './dhcp/index.js';
export * from './configFile/index.js';
export { versionOrder } from './versionOrder.js';
export * from './boot/index.js';
export * from './transfer/index.js';
export { joiningSteps, securityWords, spelled } from './joining.js';
export { wifiCode, wifiTypes, type WifiJoin, type WifiType } from './wifiCode.js';
