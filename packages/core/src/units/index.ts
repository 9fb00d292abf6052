export * from './result.js';
export * from './estimate.js';
export { fromBase64 } from './base64.js';
