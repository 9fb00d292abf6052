export { readLine, type ConfigLine, type UnreadBecause } from './line.js';
export { mergeConfig, type ConfigProblem, type ConfigText, type Merged, type MergedValue } from './merge.js';
