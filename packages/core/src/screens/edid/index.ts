export { edidBytes } from './bytes.js';
export { readEdid, type Edid, type EdidMode, type EdidProblem } from './edid.js';
export type { DetailedMode } from './detailed.js';
