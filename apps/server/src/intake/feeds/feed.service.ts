import { Injectable } from '@nestjs/common';
import {
  completed,
  keyOfName,
  objectSchemas,
  referencesOf,
  usualOrder,
  withStandIns,
  type FeedLast,
  type ObjectKind,
} from '@underpass/contracts';
import { feedOver, orderFor, type Feed, type FeedOutcome, type Link, type ObjectChange, type SaidOf } from '@underpass/core';
import type { EntityManager } from 'typeorm';
import { uuidV7 } from '../../database/uuid.js';
import { ChangeService } from '../../estate/change.service.js';
import { EstateStore } from '../../estate/estate.store.js';
import { leavingOf } from '../../estate/leaving.js';
import { orderFrom, saidOf, writeSays } from '../../estate/said.js';
import { assertLeaving, assertValid } from '../../estate/validate.js';

/** A directory: which one, under which name its facts stand, and how it is laid over the estate. */
export interface FeedFrom {
  id: string;
  /** Source of its facts: `scim:NAME`, `ldap:NAME`. */
  source: string;
  name: string;
  makePlaces: boolean;
}

const rowsAtOnce = 1000;

/** Lays what directories say over the estate, under the lock of changes. */
@Injectable()
export class FeedService {
  constructor(
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
  ) {}

  /** What stands here for what a directory has. */
  async links(
    manager: Pick<EntityManager, 'query'>,
    feed: string,
    keys: { people: readonly string[]; groups: readonly string[] | null },
  ): Promise<Link[]> {
    return (await manager.query(
      `SELECT kind, key, object_id AS id, made FROM feed_link
       WHERE feed = $1 AND ((kind = 'person' AND key = ANY($2)) OR (kind = 'group' AND ($3::text[] IS NULL OR key = ANY($3))))`,
      [feed, keys.people, keys.groups],
    )) as Link[];
  }

  /** What a few people and groups of a directory come to, over the estate as it stands now. */
  async over(manager: EntityManager, from: FeedFrom, feed: Feed): Promise<FeedOutcome> {
    const { model } = this.store;
    const query = <T>(sql: string, values?: unknown[]) => manager.query(sql, values) as Promise<T[]>;
    const keys = { people: [...feed.people.map(({ key }) => key), ...feed.gone.people], groups: null };
    const links = await this.links(manager, from.id, keys);
    const names = new Set(feed.groups.map(({ name }) => name.toLowerCase()));
    const matches = new Set(feed.people.map(({ match }) => match.toLowerCase()));
    const ids = {
      person: [
        ...links.filter(({ kind }) => kind === 'person').map(({ id }) => id),
        ...[...model.people.keys()].filter((id) => matches.has(id.toLowerCase())),
      ],
      group: [...model.groups.values()]
        .filter(({ id, name }) => names.has(name.toLowerCase()) || links.some((link) => link.kind === 'group' && link.id === id))
        .map(({ id }) => id),
    };
    const said = { person: await saidOf(query, 'person', ids.person), group: await saidOf(query, 'group', ids.group) };
    const order = await orderFrom(query);
    const none: SaidOf = new Map();
    return feedOver(
      {
        find: (kind, id) => this.store.find(kind, id),
        all: (kind) => this.store.all(kind),
        said: (kind, id) => said[kind as 'person' | 'group']?.get(id) ?? none,
        order: (kind) => (field) => orderFor(order, kind, field, usualOrder),
        complete: (kind, fields) => completed(kind, withStandIns(kind, fields)) as { id: string },
        keyOf: keyOfName,
        namesGroup: (id) => this.namesGroup(id),
      },
      feed,
      { source: from.source, at: new Date().toISOString(), links, makePlaces: from.makePlaces },
    );
  }

  private namesGroup(id: string): boolean {
    for (const kind of Object.keys(objectSchemas) as ObjectKind[]) {
      if (kind === 'person' || kind === 'group') continue;
      for (const object of this.store.all(kind))
        if (referencesOf(kind, object).some((each) => each.to === 'group' && each.id === id)) return true;
    }
    return false;
  }

  /** Writes what a directory came to as one change, with what it says and what stands for what. */
  async write(manager: EntityManager, from: FeedFrom, outcome: FeedOutcome, summary: string): Promise<FeedLast> {
    const leaving = leavingOf(this.store.model.estate, new Set(outcome.leaving));
    const writes = joined(outcome.writes, leaving);
    const gone = writes.filter(({ after }) => after === null);
    assertValid(
      writes.filter(({ after }) => after !== null),
      (kind, id) => this.store.find(kind, id),
      (kind) => this.store.all(kind),
    );
    assertLeaving(gone, writes, this.store);
    const says = outcome.says;
    if (writes.length) await this.changes.write(manager, writes, { changeId: uuidV7(), by: from.name, summary, says });
    else await writeSays(manager, says);
    await this.keepLinks(manager, from.id, outcome);
    const count = (kind: ObjectKind, was: (change: ObjectChange) => boolean) =>
      writes.filter((each) => each.kind === kind && was(each)).length;
    const of = (was: (change: ObjectChange) => boolean) => count('person', was) + count('group', was);
    return {
      ...{ state: 'done', message: null, people: 0, groups: 0 },
      added: of(({ before }) => before === null),
      changed: of(({ before, after }) => before !== null && after !== null),
      left: of(({ after }) => after === null),
      held: outcome.held.length,
      notes: outcome.notes.slice(0, 50),
    };
  }

  private async keepLinks(manager: EntityManager, feed: string, { linked, unlinked }: FeedOutcome): Promise<void> {
    for (let i = 0; i < linked.length; i += rowsAtOnce) {
      const part = linked.slice(i, i + rowsAtOnce);
      await manager.query(
        `INSERT INTO feed_link (feed, kind, key, object_id, made) SELECT $1, k, y, o, m FROM unnest($2::text[], $3::text[], $4::text[], $5::bool[]) AS t(k, y, o, m)
         ON CONFLICT (feed, kind, key) DO UPDATE SET object_id = excluded.object_id, made = excluded.made`,
        [feed, part.map(({ kind }) => kind), part.map(({ key }) => key), part.map(({ id }) => id), part.map(({ made }) => made)],
      );
    }
    if (unlinked.length)
      await manager.query(
        'DELETE FROM feed_link USING unnest($2::text[], $3::text[]) AS t(k, y) WHERE feed = $1 AND kind = k AND key = y',
        [feed, unlinked.map(({ kind }) => kind), unlinked.map(({ key }) => key)],
      );
  }
}

/** Changes of one set, of which the later one of an object is what it becomes. */
function joined(writes: readonly ObjectChange[], leaving: readonly ObjectChange[]): ObjectChange[] {
  const all = new Map(writes.map((each) => [`${each.kind}/${each.id}`, each]));
  for (const each of leaving) all.set(`${each.kind}/${each.id}`, each);
  return [...all.values()];
}
