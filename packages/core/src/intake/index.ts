export { readSheet, type ReadAs } from './readSheet.js';
export { readText, type TextEncoding } from './encoding.js';
export { SheetError, type Sheet, type SheetNote, type SheetRow } from './sheet.js';
export { guessColumns, guessKind, mapOf, sureEnough, type ColumnGuess } from './guess.js';
export { MapError, type Intake, type Rejected, type TakenRow, type Translated } from './intake.js';
export { takeIn } from './take.js';
export type { FieldFault, IntakeField, IntakeTarget, Named } from './target.js';
export { styleOf, type FigureStyle } from './figures.js';
export { saysNothing, tidyCell } from './tidy.js';
