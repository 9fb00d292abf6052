export { joiningByHand, joiningSteps, securityNames, securityWords, spelled } from './joining.js';
export { judgeScan, type ScanVerdict } from './judge.js';
export { readScan, type Seen } from './scan.js';
export { wifiCode, wifiTypes, type WifiJoin, type WifiType } from './code.js';
