import { completed, emptyEstate, kindTraits, objectKinds, type Estate, type Measurement, type ObjectKind } from '@underpass/contracts';
import { shippedSets } from '@underpass/contracts/shipped';
import { EstateModel } from '@underpass/core';

/** Runs a query; the store uses TypeORM's pool, a worker thread a connection of its own. */
export type Query = <T>(sql: string, parameters?: unknown[]) => Promise<T[]>;

export interface ObjectRow {
  kind: ObjectKind;
  id: string;
  data: object;
  version: string;
  deleted: boolean;
}
export interface MeasurementRecord {
  id: string;
  /** A text where it came as part of a row of another shape. */
  at: Date | string;
  by_name: string;
  method: Measurement['method'];
  vantage: Measurement['vantage'];
  person: string | null;
  endpoint: string | null;
  location: string;
  target: string | null;
  medium: Measurement['medium'] | null;
  partial: boolean;
  note: string | null;
  figures: Measurement['figures'];
  version: string;
}

/** Rows that are read at once: a large answer is taken apart in one go, in which nobody else is served. */
export const rowsAtOnce = 1000;

/** What was written after a version. */
export interface Written {
  rows: ObjectRow[];
  measured: MeasurementRecord[];
}

/**
 * What was written after a version, in one statement: of two the later one may see what came in between, and what the first one
 * missed of it would never be read, since its version counts as read. Null where there is more than is read at once.
 */
export async function writtenSince(query: Query, version: string): Promise<Written | null> {
  const all = await query<ObjectRow | { kind: 'measurement'; data: Omit<MeasurementRecord, 'version'>; version: string }>(
    `(SELECT kind, id, data, version, deleted FROM estate_object WHERE version > $1 ORDER BY version, kind, id LIMIT ${rowsAtOnce})
     UNION ALL
     (SELECT 'measurement', id, to_jsonb(measurement), version, false FROM measurement WHERE version > $1 ORDER BY at, id LIMIT ${rowsAtOnce})`,
    [version],
  );
  const rows: ObjectRow[] = [];
  const measured: MeasurementRecord[] = [];
  for (const row of all)
    if (row.kind === 'measurement') measured.push({ ...row.data, version: row.version });
    else rows.push(row);
  return rows.length < rowsAtOnce && measured.length < rowsAtOnce ? { rows, measured } : null;
}

/** Objects written after a version, in parts. Where there is more than one part, the query has to be of one moment. */
export async function* objectsSince(query: Query, version: string): AsyncGenerator<ObjectRow[]> {
  let last = { kind: '', id: '' };
  for (;;) {
    const rows = await query<ObjectRow>(
      `SELECT kind, id, data, version, deleted FROM estate_object WHERE version > $1 AND (kind, id) > ($2, $3) ORDER BY kind, id LIMIT ${rowsAtOnce}`,
      [version, last.kind, last.id],
    );
    yield rows;
    if (rows.length < rowsAtOnce) return;
    last = rows.at(-1) as ObjectRow;
  }
}
export const measurementsSince = (query: Query, version: string) =>
  query<MeasurementRecord>('SELECT * FROM measurement WHERE version > $1 ORDER BY at, id', [version]);

export const measurementOf = (row: MeasurementRecord): Measurement => ({
  id: row.id,
  at: new Date(row.at).toISOString().replace('.000Z', 'Z'),
  by: row.by_name,
  method: row.method,
  vantage: row.vantage,
  ...(row.person ? { person: row.person } : {}),
  ...(row.endpoint ? { endpoint: row.endpoint } : {}),
  location: row.location,
  ...(row.target ? { target: row.target } : {}),
  ...(row.medium ? { medium: row.medium } : {}),
  partial: row.partial,
  ...(row.note ? { note: row.note } : {}),
  figures: row.figures,
});

/** A map for the objects of each kind. */
export const emptyObjects = () => new Map<ObjectKind, Map<string, object>>(objectKinds.map((kind) => [kind, new Map()]));

/** The estate of a map kind → id → object, in the order of the ids: what was written, and nothing else. */
export function writtenEstate(objects: ReadonlyMap<ObjectKind, ReadonlyMap<string, object>>): Estate {
  const estate = emptyEstate() as unknown as Record<ObjectKind, object[]>;
  for (const [kind, byId] of objects) estate[kind] = [...byId.values()];
  return estate as unknown as Estate;
}

/** Builds the model of what was written, with the shipped requirement sets that were not made the estate's own. */
export const modelFrom = (
  objects: ReadonlyMap<ObjectKind, ReadonlyMap<string, object>>,
  measurements: Iterable<Measurement>,
): Generator<void, EstateModel> =>
  EstateModel.building(objects, measurements, { complete: completed, traits: kindTraits, shipped: shippedSets() });
