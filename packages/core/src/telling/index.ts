export * from './describe.js';
export * from './section.js';
export type { BayFact } from './sectionFacts.js';
export * from './sees.js';
export * from './view.js';
export { tellGapStep } from './gapStep.js';
