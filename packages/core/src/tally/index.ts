export * from './board.js';
export * from './leading.js';
export { ImpactTally, type Impact } from './impact.js';
export * from './ready.js';
export * from './savings.js';
export * from './settle.js';
export { verdictImpact, type VerdictImpact } from './verdictImpact.js';
export * from './carried.js';
