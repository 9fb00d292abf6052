export { checkDesk, textDiffers, type DeskFault, type DeskLimits } from './check.js';
export { deskKeys, deskLines, mostScreens } from './lines.js';
export { mendsOf, type ScreenMend } from './mend.js';
export { besideScreen, deskSides, makePrimary, mirrorScreen, putScreen, type DeskSide } from './move.js';
export { modesThrough, usualModes, type ModePassing } from './passing.js';
export { partsOf, passesQuartered, pathFit, type PathFit, type PathPart } from './path.js';
export { placedAt, primaryOf, settledDesk, sidesOf, type Placed } from './placed.js';
export { deskFaultSays, screenMendSays, wayWords } from './says.js';
