import type { ObjectKind } from '@underpass/contracts';
import type { Named } from './target.js';

/** Why a cell or a row is not taken. */
export interface Rejected {
  row: number;
  /** Name of the column; empty where it is the row as a whole, or a field that no column fills. */
  column: string;
  field: string;
  value: string;
  /** What is wrong. */
  text: string;
  /** What would be right. */
  wanted: string;
}
/** What a text of the list was taken for. */
export interface Translated {
  column: string;
  field: string;
  from: string;
  to: string;
  rows: number;
}
/** An object that a row came to. */
export interface TakenRow {
  row: number;
  change: 'added' | 'changed' | 'unchanged';
  object: Named;
  before: Named | null;
  /** Fields that the row says something of, by their first part: `wifi` for `wifi.standard`. */
  fields: string[];
}
/** What a list comes to over what is there. */
export interface Intake {
  taken: TakenRow[];
  /** Objects made because a row names them, and they were not there. */
  made: { kind: ObjectKind; object: Named; name: string; rows: number }[];
  rejected: Rejected[];
  translated: Translated[];
  /** Objects of the kind that are there and in no row. */
  missing: Named[];
  /** What is odd about the list as a whole: columns that are gone or new since the mapping was made. */
  notes: string[];
  /** Names in the list that are nearly alike, and may be one. */
  alike: { column: string; field: string; values: string[] }[];
}

/** A mapping that cannot be used: what of it is wrong. */
export class MapError extends Error {
  constructor(
    message: string,
    readonly place: string,
  ) {
    super(message);
  }
}
