export { costUntil, crossovers, type CostOfWork, type CostUntil, type Crossover } from './cost.js';
