export * from './assumed.js';
export { assumedFigures, faultOfAssumed, type AssumedFigure } from './table.js';
