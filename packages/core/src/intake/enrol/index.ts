export { prefixIn } from './addressRange.js';
export { objectScript } from './objectScript.js';
export { shellScript } from './shellScript.js';
export { likelyEndpoint, likelyPlace, reportedFields, type ReportedFields } from './device.js';
