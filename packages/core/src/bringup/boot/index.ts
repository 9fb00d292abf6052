export { boot, type Boot, type BootBreak } from './boot.js';
export { bootCauses, type BootCause } from './causes/index.js';
export { BootReader, type BootEstate, type BootFacts } from './facts.js';
export { sumOf } from './files.js';
export { firmwareDecision, type FirmwareDecision } from './firmware.js';
export type { BootNote } from './run.js';
export { placeOf, type ServerPlace } from './serverPlace.js';
export { bootSteps, type BootMessage, type BootStep, type BootStepName } from './steps.js';
export { mendOf } from './mend.js';
