export * from './board.js';
export * from './leading.js';
export * from './impact.js';
export * from './ready.js';
export * from './savings.js';
export * from './settle.js';
