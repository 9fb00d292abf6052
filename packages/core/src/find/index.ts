export { slipsBetween } from './slips.js';
export { entryOf, find, wordsIn, type Entry, type Findable } from './finder.js';
