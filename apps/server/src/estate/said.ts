import { objectKinds, reportedKinds, secretFields, SourceOrder, type ObjectKind } from '@underpass/contracts';
import { same, typed, type ObjectChange, type SaidFields, type SaidOf } from '@underpass/core';
import type { EntityManager } from 'typeorm';
import type { Query } from './load.js';

/** What a source says of an object. */
export interface Says {
  kind: ObjectKind;
  id: string;
  source: string;
  fields: SaidFields;
}

const rowsAtOnce = 1000;
type Run = Pick<EntityManager, 'query'>;

/** Fields that hold a secret: they stand in the object alone, whoever they are from. */
const closed = new Set(objectKinds.flatMap((kind) => secretFields[kind].map((path) => `${kind}/${path.split('.')[0]}`)));

const open = ({ kind, fields }: Says): SaidFields =>
  Object.fromEntries(Object.entries(fields).filter(([field]) => !closed.has(`${kind}/${field}`)));

/** What a change made by hand, or by a source that writes what it says, says of its objects. */
export const saysOf = (changes: readonly ObjectChange[], source: string, at: string, by: string): Says[] =>
  changes.flatMap(({ kind, id, before, after }) => {
    if (!after || reportedKinds.includes(kind)) return [];
    const fields = typed(before, after, at, by);
    return Object.keys(fields).length ? [{ kind, id, source, fields }] : [];
  });

/** Writes what sources say, beside what they said before. */
export async function writeSays(manager: Run, says: readonly Says[]): Promise<void> {
  for (let i = 0; i < says.length; i += rowsAtOnce) {
    const part = says.slice(i, i + rowsAtOnce);
    await manager.query(
      `INSERT INTO said (kind, object_id, source, fields)
         SELECT k, i, s, f::jsonb FROM unnest($1::text[], $2::text[], $3::text[], $4::text[]) AS t(k, i, s, f)
       ON CONFLICT (kind, object_id, source) DO UPDATE SET fields = said.fields || excluded.fields`,
      [
        part.map(({ kind }) => kind),
        part.map(({ id }) => id),
        part.map(({ source }) => source),
        part.map((each) => JSON.stringify(open(each))),
      ],
    );
  }
}

/** A source does not say these fields any more. */
export async function takeBack(manager: Run, source: string, kind: ObjectKind, id: string, fields: readonly string[]): Promise<void> {
  await manager.query('UPDATE said SET fields = fields - $4::text[] WHERE kind = $1 AND object_id = $2 AND source = $3', [
    ...[kind, id, source],
    fields,
  ]);
}

/** What is not there any more nobody says anything of. */
export async function forgetSaid(manager: Run, gone: readonly Pick<ObjectChange, 'kind' | 'id'>[]): Promise<void> {
  for (let i = 0; i < gone.length; i += rowsAtOnce) {
    const part = gone.slice(i, i + rowsAtOnce);
    await manager.query('DELETE FROM said USING unnest($1::text[], $2::text[]) AS t(k, i) WHERE kind = k AND object_id = i', [
      part.map(({ kind }) => kind),
      part.map(({ id }) => id),
    ]);
  }
}

/** What is said of the objects of a kind, or of some of them. */
export async function saidOf(query: Query, kind: ObjectKind, ids?: readonly string[]): Promise<Map<string, SaidOf>> {
  const rows = await query<{ id: string; source: string; fields: SaidFields }>(
    'SELECT object_id AS id, source, fields FROM said WHERE kind = $1 AND ($2::text[] IS NULL OR object_id = ANY($2)) ORDER BY source',
    [kind, ids ?? null],
  );
  const said = new Map<string, Map<string, SaidFields>>();
  for (const { id, source, fields } of rows) {
    const of = said.get(id) ?? new Map<string, SaidFields>();
    of.set(source, fields);
    said.set(id, of);
  }
  return said;
}

/** The order of sources that somebody set; what is written and not understood any more counts as none. */
export async function orderFrom(query: Query): Promise<SourceOrder> {
  const [row] = await query<{ content: unknown }>('SELECT content FROM source_order');
  const order = SourceOrder.safeParse(row?.content ?? {});
  return order.success ? order.data : {};
}

/**
 * What a change that takes another back says: what stands again is somebody's word only where no source says it of itself. The
 * fields of the others are taken out of what was typed.
 */
export async function afterUndo(query: Query, says: readonly Says[]): Promise<{ says: Says[]; unsaid: Says[] }> {
  const known = new Map<ObjectKind, Map<string, SaidOf>>();
  for (const kind of new Set(says.map((each) => each.kind)))
    known.set(
      kind,
      await saidOf(
        query,
        kind,
        says.filter((each) => each.kind === kind).map(({ id }) => id),
      ),
    );
  const parted = says.map((each) => {
    const others = [...(known.get(each.kind)?.get(each.id) ?? [])].filter(([source]) => source !== each.source);
    const told = (field: string, value: unknown) =>
      others.some(([, fields]) => fields[field] !== undefined && same(fields[field].value, value));
    const entries = Object.entries(each.fields);
    return {
      own: { ...each, fields: Object.fromEntries(entries.filter(([field, { value }]) => !told(field, value))) },
      unsaid: { ...each, fields: Object.fromEntries(entries.filter(([field, { value }]) => told(field, value))) },
    };
  });
  const some = ({ fields }: Says) => Object.keys(fields).length > 0;
  return { says: parted.map(({ own }) => own).filter(some), unsaid: parted.map(({ unsaid }) => unsaid).filter(some) };
}
