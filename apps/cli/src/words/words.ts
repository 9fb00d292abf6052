import type { Options } from '../options.js';

/** An option of a command: what it takes, if anything, what it means, and what holds without it. */
export interface OptionWords {
  name: string;
  takes?: string;
  says: string;
  without?: string;
}
export interface CommandWords {
  name: string;
  does: string;
  /** What stands behind the name: each with its meaning. */
  takes?: readonly (readonly [name: string, says: string])[];
  /** Whether the last of those may be several. */
  several?: boolean;
  options: readonly OptionWords[];
  examples: readonly string[];
  /** What stands in text where there is none; a figure that is not there is not known. */
  absent?: string;
  /** Its figures are rounded to this many that count. */
  digits?: number;
  run: (options: Options) => object | Promise<object>;
}

/** The folder of an estate, as it is taken. */
export const folder = [['FOLDER', 'folder of an estate, its files in the form of docs/estate.md']] as const;
/** The demo’s own. */
export const demo = 'demo/saltmarsh';
/** Somebody, by id. */
export const person = { name: 'person', takes: 'ID', says: 'id of a person' };
/** As much as a calculation of this kind can know. */
export const known = 4;
