import { membersOf, ScimError, type ScimKind, type ScimResource } from '@underpass/core';
import type { EntityManager } from 'typeorm';

/** A resource as it is kept. */
export interface ScimRow {
  id: string;
  data: ScimResource;
  version: number;
  created_at: Date;
  changed_at: Date;
}
export type Run = Pick<EntityManager, 'query'>;

const columns = 'id, data, version, created_at, changed_at';
/** Name by which a resource is looked up: of people it is theirs alone [RFC 7643 4.1.1]. */
const nameOf = (kind: ScimKind, data: ScimResource): string =>
  String(kind.name === 'User' ? data.userName : data.displayName).toLowerCase();

export async function rowOf(run: Run, feed: string, kind: ScimKind, id: string): Promise<ScimRow | null> {
  const [row] = (await run.query(`SELECT ${columns} FROM scim_resource WHERE feed = $1 AND kind = $2 AND id = $3`, [
    feed,
    kind.name,
    id,
  ])) as ScimRow[];
  return row ?? null;
}

export async function rowsOf(run: Run, feed: string, kind: ScimKind, ids: readonly string[]): Promise<ScimRow[]> {
  if (ids.length === 0) return [];
  return (await run.query(`SELECT ${columns} FROM scim_resource WHERE feed = $1 AND kind = $2 AND id = ANY($3)`, [
    feed,
    kind.name,
    ids,
  ])) as ScimRow[];
}

/** A name that is looked for: `is` where it has to be the whole one. */
export interface Sought {
  column: 'name_key' | 'external_id' | 'id';
  is: string;
}
/** All of a kind in the order in which they came; or those few that a name or key leaves. */
export async function listedRows(run: Run, feed: string, kind: ScimKind, sought: Sought | null): Promise<ScimRow[]> {
  // the column is one of three words of ours
  const where = sought ? ` AND ${sought.column} = $3` : '';
  return (await run.query(`SELECT ${columns} FROM scim_resource WHERE feed = $1 AND kind = $2${where} ORDER BY created_at, id`, [
    ...[feed, kind.name],
    ...(sought ? [sought.is] : []),
  ])) as ScimRow[];
}

/** A part of all of a kind, and how many there are. */
export async function pageOf(
  run: Run,
  feed: string,
  kind: ScimKind,
  from: number,
  count: number,
): Promise<{ rows: ScimRow[]; total: number }> {
  const [all] = (await run.query('SELECT count(*)::int AS n FROM scim_resource WHERE feed = $1 AND kind = $2', [feed, kind.name])) as {
    n: number;
  }[];
  const rows = (await run.query(
    `SELECT ${columns} FROM scim_resource WHERE feed = $1 AND kind = $2 ORDER BY created_at, id OFFSET $3 LIMIT $4`,
    [...[feed, kind.name], ...[from, count]],
  )) as ScimRow[];
  return { rows, total: all?.n ?? 0 };
}

/** Writes a resource; members of a group have to be there. @throws ScimError `uniqueness` where another one has its name */
export async function keepRow(run: Run, feed: string, kind: ScimKind, id: string, data: ScimResource, version: number): Promise<ScimRow> {
  const name = nameOf(kind, data);
  if (kind.name === 'User') {
    const [other] = (await run.query(`SELECT id FROM scim_resource WHERE feed = $1 AND kind = 'User' AND name_key = $2 AND id <> $3`, [
      feed,
      name,
      id,
    ])) as object[];
    if (other) throw new ScimError('uniqueness', `another person has the userName “${String(data.userName)}”`);
  }
  const [row] = (await run.query(
    `INSERT INTO scim_resource (feed, kind, id, name_key, external_id, data, version, created_at, changed_at) VALUES ($1, $2, $3, $4, $5, $6, $7, now(), now())
     ON CONFLICT (feed, id) DO UPDATE SET name_key = $4, external_id = $5, data = $6, version = $7, changed_at = now() RETURNING ${columns}`,
    [feed, kind.name, id, name, data.externalId ?? null, JSON.stringify(data), version],
  )) as ScimRow[];
  if (kind.name === 'Group') await keepMembers(run, feed, id, membersOf(data));
  return row as ScimRow;
}

async function keepMembers(run: Run, feed: string, group: string, members: readonly string[]): Promise<void> {
  const known = (await run.query('SELECT id FROM scim_resource WHERE feed = $1 AND id = ANY($2)', [feed, members])) as { id: string }[];
  const there = new Set(known.map(({ id }) => id));
  const missing = members.find((id) => !there.has(id));
  if (missing !== undefined) throw new ScimError('invalidValue', `the member “${missing.slice(0, 80)}” is not here`);
  await run.query('DELETE FROM scim_member WHERE feed = $1 AND group_id = $2 AND NOT member_id = ANY($3)', [feed, group, members]);
  await run.query('INSERT INTO scim_member (feed, group_id, member_id) SELECT $1, $2, unnest($3::text[]) ON CONFLICT DO NOTHING', [
    feed,
    group,
    members,
  ]);
}

export async function dropRow(run: Run, feed: string, id: string): Promise<void> {
  // a member that is gone stands in no group any more
  await run.query(
    `UPDATE scim_resource SET version = version + 1, changed_at = now(),
       data = jsonb_set(data, '{members}', coalesce((SELECT jsonb_agg(m) FROM jsonb_array_elements(data->'members') m WHERE m->>'value' <> $2), '[]'))
     WHERE feed = $1 AND id IN (SELECT group_id FROM scim_member WHERE feed = $1 AND member_id = $2)`,
    [feed, id],
  );
  await run.query('DELETE FROM scim_resource WHERE feed = $1 AND id = $2', [feed, id]);
}

/** Groups that each of these is a member of. */
export async function groupsWith(run: Run, feed: string, members: readonly string[]): Promise<Map<string, { id: string; name: string }[]>> {
  const rows = (await run.query(
    `SELECT m.member_id AS member, g.id, g.data->>'displayName' AS name FROM scim_member m JOIN scim_resource g ON g.feed = m.feed AND g.id = m.group_id
     WHERE m.feed = $1 AND m.member_id = ANY($2) ORDER BY g.created_at, g.id`,
    [feed, members],
  )) as { member: string; id: string; name: string }[];
  const groups = new Map<string, { id: string; name: string }[]>();
  for (const { member, id, name } of rows) groups.set(member, [...(groups.get(member) ?? []), { id, name }]);
  return groups;
}

/** Names of resources, to be told beside their keys. */
export async function namesOf(run: Run, feed: string, ids: readonly string[]): Promise<Map<string, { kind: string; name: string }>> {
  const rows = (await run.query(
    `SELECT id, kind, coalesce(data->>'displayName', data->'name'->>'formatted', data->>'userName') AS name FROM scim_resource WHERE feed = $1 AND id = ANY($2)`,
    [feed, ids],
  )) as { id: string; kind: string; name: string }[];
  return new Map(rows.map(({ id, kind, name }) => [id, { kind, name }]));
}
