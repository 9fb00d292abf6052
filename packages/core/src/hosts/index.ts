export * from './readiness.js';
