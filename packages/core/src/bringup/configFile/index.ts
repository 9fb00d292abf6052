export { setKey, switchSection } from './edit.js';
export { readLine, type ConfigLine, type UnreadBecause } from './line.js';
export { mergeConfig, type ConfigProblem, type ConfigText, type Merged, type MergedValue } from './merge.js';
export { filesOfSettings, madePrefix, type MadeFile } from './publish.js';
