import { completed, keyOfName, objectSchemas, referencesOf, usualOrder, withStandIns, type ObjectKind } from '@underpass/contracts';
import { feedOfDirectory, feedOver, orderFor, type DirectoryMapping, type FeedOutcome, type Link, type SaidOf } from '@underpass/core';
import { atOneMoment } from '../../estate/atOneMoment.js';
import { objectsSince } from '../../estate/load.js';
import { orderFrom, saidOf } from '../../estate/said.js';
import type { PlainEntry } from './reader.js';

export interface DirectoryTask {
  /** Entries as they came, a part of JSON for each page. */
  pages: Uint8Array[];
  mapping: DirectoryMapping;
  databaseUrl: string;
  feed: string;
  source: string;
  makePlaces: boolean;
}
export interface DirectoryRead {
  outcome: FeedOutcome;
  people: number;
  groups: number;
  /** People that stood for this directory before. */
  known: number;
  problems: string[];
  version: number;
}

/** What a whole directory comes to over the estate as it is written now; away from the thread that answers people. */
export async function directoryOver({ pages, mapping, databaseUrl, feed: id, source, makePlaces }: DirectoryTask): Promise<DirectoryRead> {
  let line = 0;
  const entries = pages.flatMap((page) =>
    (JSON.parse(Buffer.from(page).toString('utf8')) as PlainEntry[]).map(([dn, attributes]) => ({
      dn,
      attributes: new Map(attributes),
      line: ++line,
    })),
  );
  const { feed, problems } = feedOfDirectory(entries, mapping);
  return atOneMoment(databaseUrl, async (query, version) => {
    const all = new Map<ObjectKind, Map<string, object>>();
    const named = new Set<string>();
    for await (const rows of objectsSince(query, '0'))
      for (const { kind, id: of, data, deleted } of rows) {
        if (deleted || !objectSchemas[kind]) continue;
        if (['person', 'group', 'location'].includes(kind)) {
          const list = all.get(kind) ?? new Map<string, object>();
          all.set(kind, list.set(of, data));
        }
        if (kind !== 'person' && kind !== 'group') for (const each of referencesOf(kind, data)) if (each.to === 'group') named.add(each.id);
      }
    const links = await query<Link>('SELECT kind, key, object_id AS id, made FROM feed_link WHERE feed = $1', [id]);
    const [people, groups] = [new Set(feed.people.map(({ key }) => key)), new Set(feed.groups.map(({ key }) => key))];
    const known = links.filter(({ kind }) => kind === 'person');
    const gone = {
      people: known.filter(({ key }) => !people.has(key)).map(({ key }) => key),
      groups: links.filter(({ kind, key }) => kind === 'group' && !groups.has(key)).map(({ key }) => key),
    };
    const said = { person: await saidOf(query, 'person'), group: await saidOf(query, 'group') };
    const order = await orderFrom(query);
    const none: SaidOf = new Map();
    const of = (kind: ObjectKind) => all.get(kind) ?? new Map<string, object>();
    const outcome = feedOver(
      {
        find: (kind, key) => of(kind).get(key),
        all: (kind) => of(kind).values(),
        said: (kind, key) => said[kind as 'person' | 'group']?.get(key) ?? none,
        order: (kind) => (field) => orderFor(order, kind, field, usualOrder),
        complete: (kind, fields) => completed(kind, withStandIns(kind, fields)) as { id: string },
        keyOf: keyOfName,
        namesGroup: (key) => named.has(key),
      },
      { ...feed, gone },
      { source, at: new Date().toISOString(), links, makePlaces },
    );
    return {
      ...{ outcome, people: feed.people.length, groups: feed.groups.length, known: known.length, version },
      problems: problems.map(({ dn, text }) => `${dn} ${text}.`),
    };
  });
}
