import { intakeTarget, listedKinds, type HeldRow, type ObjectKind, type SourceOrder, type TableMap } from '@underpass/contracts';
import {
  guessColumns,
  guessKind,
  MapError,
  mapOf,
  readSheet,
  SheetError,
  takeIn,
  type Intake,
  type Named,
  type ReadAs,
  type SaidOf,
  type Sheet,
} from '@underpass/core';
import type { MessagePort } from 'node:worker_threads';
import { atOneMoment } from '../estate/atOneMoment.js';
import { objectsSince } from '../estate/load.js';
import { orderFrom, saidOf, type Says } from '../estate/said.js';
import { notValid, ProblemError } from '../problems/problem.js';
import { settle, type NameOf } from './settle.js';

/** Rows of a list that its page shows. */
const shownRows = 40;

/** The rows of a list; what cannot be read is told with its row. */
async function sheetFrom(bytes: Uint8Array, as: ReadAs): ReturnType<typeof readSheet> {
  try {
    return await readSheet(bytes, as);
  } catch (error) {
    if (!(error instanceof SheetError)) throw error;
    throw new ProblemError(422, 'Not a list', `Row ${error.row}: ${error.message}.`);
  }
}

/** The estate as it is written now. */
interface Written {
  version: number;
  /** Objects of the kinds that were asked for. */
  objects: Map<ObjectKind, Named[]>;
  /** What sources say of those of one kind. */
  said: Map<string, SaidOf>;
  order: SourceOrder;
}

/** Objects of some kinds, read on a connection of their own: nobody waits while there are many. */
async function estateFrom(databaseUrl: string, kinds: ReadonlySet<ObjectKind>, saidOfKind: ObjectKind | null): Promise<Written> {
  return atOneMoment(databaseUrl, async (query, version) => {
    const objects = new Map<ObjectKind, Named[]>([...kinds].map((kind) => [kind, []]));
    for await (const rows of objectsSince(query, '0'))
      for (const each of rows) if (!each.deleted) objects.get(each.kind)?.push(each.data as Named);
    const said = saidOfKind ? await saidOf(query, saidOfKind) : new Map<string, SaidOf>();
    return { version, objects, said, order: await orderFrom(query) };
  });
}

const allKinds = new Set(listedKinds);
const kindsOf = (kind: ObjectKind): ReadonlySet<ObjectKind> =>
  new Set([kind, ...intakeTarget(kind, () => []).fields.flatMap((field) => (field.kind ? [field.kind] : []))]);

/** What a list looks like: its columns, and what they are taken for. */
export async function look(bytes: Uint8Array, databaseUrl: string, options: ReadAs) {
  const { sheet, kind } = await sheetFrom(bytes, options);
  const { objects } = await estateFrom(databaseUrl, kind ? kindsOf(kind) : allKinds, null);
  const targetOf = (each: ObjectKind) => intakeTarget(each, (of) => objects.get(of) ?? []);
  const guess = kind ? { kind, guesses: guessColumns(sheet, targetOf(kind)) } : guessKind(sheet, listedKinds.map(targetOf));
  const found = guess ?? { kind: 'endpoint' as const, guesses: guessColumns(sheet, targetOf('endpoint')) };
  return {
    ...{ format: sheet.format, encoding: sheet.encoding, delimiter: sheet.delimiter, headerRow: sheet.headerRow },
    ...{ rows: sheet.rows.length, sheets: sheet.sheets ?? null, notes: sheet.notes.slice(0, 100), head: sheet.head },
    sample: sheet.rows.slice(0, shownRows).map(({ row, cells }) => ({ row, cells: cells.map((cell) => cell.slice(0, 200)) })),
    ...{ kind: found.kind, columns: found.guesses },
    map: { ...mapOf(found.kind, sheet, found.guesses), ...(options.headerRow === undefined ? {} : { headerRow: options.headerRow }) },
  };
}

/** Cells put in place of those of the list. */
function mended(sheet: Sheet, mends: Readonly<Record<string, Readonly<Record<string, string>>>>): Sheet {
  if (Object.keys(mends).length === 0) return sheet;
  const rows = sheet.rows.map(({ row, cells }) => {
    const mend = mends[row];
    if (!mend) return { row, cells };
    return { row, cells: sheet.head.map((name, i) => mend[name] ?? cells[i] ?? '') };
  });
  return { ...sheet, rows };
}

/** Names of objects, found once for each kind that is asked for. */
function namesIn(objects: ReadonlyMap<ObjectKind, readonly Named[]>): NameOf {
  const books = new Map<ObjectKind, Map<string, string | undefined>>();
  return (kind, id) => {
    let book = books.get(kind);
    if (!book) books.set(kind, (book = new Map((objects.get(kind) ?? []).map((object) => [object.id, object.name]))));
    return book.get(id);
  };
}

/** A list to take in: by which mapping, with which cells mended, and as which source. */
export interface ListTask {
  bytes: Uint8Array;
  databaseUrl: string;
  map: TableMap;
  mends: Readonly<Record<string, Readonly<Record<string, string>>>>;
  source: string;
  /** Somebody wants what the list says, whatever the order of sources is. */
  over: boolean;
  port: MessagePort;
}
export interface ListRead {
  intake: Intake;
  sheet: Pick<Sheet, 'head' | 'notes'>;
  rejectedRows: { row: number; cells: string[] }[];
  version: number;
  says: Says[];
  held: HeldRow[];
  heldTotal: number;
}

/** What a list comes to by a mapping, over the estate as it is written now. */
export async function take({ bytes, databaseUrl, map, mends, source, over, port }: ListTask): Promise<ListRead> {
  const read = await sheetFrom(bytes, map);
  const sheet = mended(read.sheet, mends);
  const kinds = new Set([...kindsOf(map.kind), ...(Object.keys(map.make) as ObjectKind[])]);
  const { version, objects, said, order } = await estateFrom(databaseUrl, kinds, map.kind);
  const target = intakeTarget(map.kind, (each) => objects.get(each) ?? []);
  let intake: Intake;
  try {
    intake = takeIn(sheet, map, target, (done, total) => port.postMessage({ done, total }));
  } catch (error) {
    if (!(error instanceof MapError)) throw error;
    throw notValid([{ path: ['map', ...error.place.split('.')], message: error.message }]);
  }
  const bad = new Set(intake.rejected.slice(0, 5000).map(({ row }) => row));
  const rejectedRows = sheet.rows
    .filter(({ row }) => bad.has(row))
    .map(({ row, cells }) => ({ row, cells: sheet.head.map((_, i) => cells[i] ?? '') }));
  const settled = settle(map.kind, intake, source, { said, order, over, nameOf: namesIn(objects) });
  return {
    intake: { ...intake, taken: settled.taken },
    sheet: { head: sheet.head, notes: sheet.notes },
    rejectedRows,
    version,
    ...settled.told,
  };
}
