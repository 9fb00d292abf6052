export * from './line/line.js';
export * from './line/shaper.js';
export * from './line/demoLines.js';
