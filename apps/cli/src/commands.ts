import { ofCrossings } from './words/ofCrossings.js';
import { ofCalculators } from './words/ofCalculators.js';
import { ofBringup } from './words/ofBringup.js';
import { ofAccess } from './words/ofAccess.js';
import { ofFiles } from './words/ofFiles.js';
import type { CommandWords } from './words/words.js';

export type { CommandWords } from './words/words.js';

/** Every command, in the order in which the help tells them. */
export const commands: readonly CommandWords[] = [...ofCrossings, ...ofCalculators, ...ofBringup, ...ofAccess, ...ofFiles];
