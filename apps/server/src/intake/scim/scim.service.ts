import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { ScimQuery } from '@underpass/contracts';
import {
  groupKind,
  matches,
  membersOf,
  parseFilter,
  patched,
  personOf,
  readResource,
  shownResource,
  userKind,
  type Feed,
  type FeedPerson,
  type Filter,
  type PatchOperation,
  type ScimKind,
  type ScimResource,
} from '@underpass/core';
import { DataSource, type EntityManager } from 'typeorm';
import { uuidV7 } from '../../database/uuid.js';
import { PublicOrigin } from '../../edge/publicOrigin.js';
import { ChangeService } from '../../estate/change.service.js';
import { EstateStore } from '../../estate/estate.store.js';
import { eachInSlices } from '../../jobs/slices.js';
import { ProblemError } from '../../problems/problem.js';
import { FeedService } from '../feeds/feed.service.js';
import { mostListed } from './described.js';
import type { ScimFeed } from './scim.guard.js';
import {
  dropRow,
  groupsWith,
  keepRow,
  listedRows,
  namesOf,
  pageOf,
  rowOf,
  rowsOf,
  type Run,
  type ScimRow,
  type Sought,
} from './scimStore.js';

/** Resources that are there when nobody says how many. */
const usualCount = 100;
const listSchema = 'urn:ietf:params:scim:api:messages:2.0:ListResponse';
type Asked = Pick<ScimQuery, 'attributes' | 'excludedAttributes'>;
/** A resource as it is told, with its version. */
export interface Shown {
  resource: ScimResource;
  version: string;
}

/**
 * People and groups that a directory sends: kept as it sends them, and laid over the estate with each request, in one transaction: what
 * the estate cannot take is refused, and nothing of it is kept.
 */
@Injectable()
export class ScimService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly feeds: FeedService,
    private readonly changes: ChangeService,
    private readonly store: EstateStore,
    private readonly origin: PublicOrigin,
  ) {}

  get base(): string {
    return `${this.origin.url()}/scim/v2`;
  }

  async one(feed: ScimFeed, kind: ScimKind, id: string, asked: Asked): Promise<Shown> {
    return this.told(this.data, feed, kind, existing(kind, id, await rowOf(this.data, feed.id, kind, id)), asked);
  }

  /** Resources that a filter asks for, a part at a time [RFC 7644 3.4.2]. */
  async list(feed: ScimFeed, kind: ScimKind, { filter, startIndex = 1, count = usualCount, ...asked }: ScimQuery): Promise<ScimResource> {
    const from = Math.max(1, startIndex) - 1;
    const most = Math.min(mostListed, Math.max(0, count));
    const { rows, total } =
      filter === undefined ? await pageOf(this.data, feed.id, kind, from, most) : await this.filtered(feed, kind, filter, from, most);
    const told = await this.toldAll(this.data, feed, kind, rows, asked);
    return {
      schemas: [listSchema],
      totalResults: total,
      startIndex: from + 1,
      itemsPerPage: rows.length,
      Resources: told.map(({ resource }) => resource),
    };
  }

  private async filtered(
    feed: ScimFeed,
    kind: ScimKind,
    text: string,
    from: number,
    most: number,
  ): Promise<{ rows: ScimRow[]; total: number }> {
    const filter = parseFilter(kind, text);
    const found: ScimRow[] = [];
    const rows = await listedRows(this.data, feed.id, kind, soughtBy(kind, filter));
    const whole = await this.wholes(this.data, feed, kind, rows);
    await eachInSlices(rows, (row) => {
      if (matches(filter, whole.get(row.id) as ScimResource)) found.push(row);
    });
    return { rows: found.slice(from, from + most), total: found.length };
  }

  async create(feed: ScimFeed, kind: ScimKind, sent: object, asked: Asked): Promise<Shown> {
    const resource = readResource(kind, sent);
    const id = uuidV7();
    return this.within(feed, `came: ${nameIn(resource)}`, async (manager) => {
      const row = await keepRow(manager, feed.id, kind, id, resource, 1);
      await this.lay(manager, feed, kind, { id, before: null, after: resource });
      return this.told(manager, feed, kind, row, asked);
    });
  }

  async replace(feed: ScimFeed, kind: ScimKind, id: string, sent: object, ifMatch: string | undefined, asked: Asked): Promise<Shown> {
    const resource = readResource(kind, sent);
    return this.changed(feed, kind, id, ifMatch, asked, () => resource);
  }

  async patch(
    feed: ScimFeed,
    kind: ScimKind,
    id: string,
    operations: readonly PatchOperation[],
    ifMatch: string | undefined,
    asked: Asked,
  ): Promise<Shown> {
    return this.changed(feed, kind, id, ifMatch, asked, (before) => patched(kind, before, operations));
  }

  async remove(feed: ScimFeed, kind: ScimKind, id: string, ifMatch: string | undefined): Promise<void> {
    await this.within(feed, 'left', async (manager) => {
      const row = existing(kind, id, await rowOf(manager, feed.id, kind, id));
      assertVersion(row, ifMatch);
      await this.lay(manager, feed, kind, { id, before: row.data, after: null });
      await dropRow(manager, feed.id, id);
    });
  }

  private changed(
    feed: ScimFeed,
    kind: ScimKind,
    id: string,
    ifMatch: string | undefined,
    asked: Asked,
    next: (before: ScimResource) => ScimResource,
  ): Promise<Shown> {
    return this.within(feed, 'changed', async (manager) => {
      const row = existing(kind, id, await rowOf(manager, feed.id, kind, id));
      assertVersion(row, ifMatch);
      const after = next(row.data);
      const kept = await keepRow(manager, feed.id, kind, id, after, row.version + 1);
      await this.lay(manager, feed, kind, { id, before: row.data, after });
      return this.told(manager, feed, kind, kept, asked);
    });
  }

  /** Work on what is kept and on the estate at once. */
  private async within<T>(feed: ScimFeed, cause: string, work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const done = await this.changes.locked(async (manager) => {
      const result = await work(manager);
      await manager.query('UPDATE feed SET last_at = now() WHERE id = $1', [feed.id]);
      return result;
    });
    const told = `${feed.name} ${cause}`;
    await this.store.refresh(told).catch(() => this.store.catchUp(told));
    return done;
  }

  /** Lays what became of a resource over the estate: itself, and whoever came into a group or left it. */
  private async lay(
    manager: EntityManager,
    feed: ScimFeed,
    kind: ScimKind,
    { id, before, after }: { id: string; before: ScimResource | null; after: ScimResource | null },
  ): Promise<void> {
    const gone = after === null ? [id] : [];
    let people = kind.name === 'User' ? [id] : [];
    let groups = kind.name === 'Group' ? [id] : [];
    if (kind.name === 'Group') {
      const [was, is] = [new Set(before ? membersOf(before) : []), new Set(after ? membersOf(after) : [])];
      const moved = [...[...was].filter((each) => !is.has(each)), ...[...is].filter((each) => !was.has(each))];
      people = (await rowsOf(manager, feed.id, userKind, moved)).map((row) => row.id);
      groups = [...groups, ...(await rowsOf(manager, feed.id, groupKind, moved)).map((row) => row.id)];
    }
    const told = await this.feedOf(
      manager,
      feed,
      people.filter((each) => !gone.includes(each)),
      groups.filter((each) => !gone.includes(each)),
    );
    const part: Feed = {
      ...told,
      gone: { people: kind.name === 'User' ? gone : [], groups: kind.name === 'Group' ? gone : [] },
    };
    const outcome = await this.feeds.over(manager, feed, part);
    const whom = nameIn(after ?? before ?? {});
    const last = await this.feeds.write(manager, feed, outcome, `${feed.name}: ${whom}${after === null ? ' left' : ''}`);
    await manager.query('UPDATE feed SET last = $2 WHERE id = $1', [
      feed.id,
      JSON.stringify({ ...last, people: part.people.length, groups: part.groups.length }),
    ]);
  }

  /** People and groups as the feed has them now. */
  private async feedOf(
    run: Run,
    feed: ScimFeed,
    people: readonly string[],
    groups: readonly string[],
  ): Promise<Pick<Feed, 'people' | 'groups'>> {
    const inGroups = await groupsWith(run, feed.id, [...people, ...groups]);
    const keysOf = (id: string) => (inGroups.get(id) ?? []).map((each) => each.id);
    return {
      people: (await rowsOf(run, feed.id, userKind, people)).map(({ id, data }): FeedPerson => {
        const { key, name, active, place } = personOf(data, feed.options.placeFrom);
        // a name to sign in with is often a mail address: its owner is called by what stands before
        return { key: id, match: key.split('@')[0] || key, name, active, place, groups: keysOf(id) };
      }),
      groups: (await rowsOf(run, feed.id, groupKind, groups)).map(({ id, data }) => ({
        key: id,
        name: nameIn(data),
        memberOf: keysOf(id),
      })),
    };
  }

  /** Resources with what is ours to say: keys, times, the names of members and the groups of people. */
  private async wholes(run: Run, feed: ScimFeed, kind: ScimKind, rows: readonly ScimRow[]): Promise<Map<string, ScimResource>> {
    const { base } = this;
    const groups =
      kind.name === 'User'
        ? await groupsWith(
            run,
            feed.id,
            rows.map(({ id }) => id),
          )
        : new Map<string, { id: string; name: string }[]>();
    const names =
      kind.name === 'Group'
        ? await namesOf(run, feed.id, [...new Set(rows.flatMap(({ data }) => membersOf(data)))])
        : new Map<string, { kind: string; name: string }>();
    return new Map(
      rows.map((row) => {
        const { id, data, version, created_at: created, changed_at: changed } = row;
        const own = groups
          .get(id)
          ?.map((each) => ({ value: each.id, $ref: `${base}/Groups/${each.id}`, display: each.name, type: 'direct' }));
        const members = (data.members as { value?: string }[] | undefined)?.map((each) => {
          const known = names.get(each.value ?? '');
          return known ? { ...each, $ref: `${base}/${known.kind}s/${each.value}`, type: known.kind, display: known.name } : each;
        });
        const meta = {
          ...{ resourceType: kind.name, created: created.toISOString(), lastModified: changed.toISOString() },
          ...{ location: `${base}${kind.endpoint}/${id}`, version: `W/"${version}"` },
        };
        return [id, { id, ...data, ...(members ? { members } : {}), ...(own ? { groups: own } : {}), meta }];
      }),
    );
  }

  private async toldAll(
    run: Run,
    feed: ScimFeed,
    kind: ScimKind,
    rows: readonly ScimRow[],
    { attributes, excludedAttributes }: Asked,
  ): Promise<Shown[]> {
    const wholes = await this.wholes(run, feed, kind, rows);
    return rows.map(({ id, version }) => ({
      resource: shownResource(kind, wholes.get(id) as ScimResource, { attributes, excluded: excludedAttributes }),
      version: `W/"${version}"`,
    }));
  }
  private async told(run: Run, feed: ScimFeed, kind: ScimKind, row: ScimRow, asked: Asked): Promise<Shown> {
    return (await this.toldAll(run, feed, kind, [row], asked))[0] as Shown;
  }
}

const nameIn = ({ displayName, userName }: ScimResource): string => String(displayName ?? userName ?? '').slice(0, 120);

function existing(kind: ScimKind, id: string, row: ScimRow | null): ScimRow {
  if (!row) throw new ProblemError(404, 'Not found', `There is no ${kind.name} “${id.slice(0, 80)}”.`);
  return row;
}

/** Whoever says which version they saw changes that one alone [RFC 7644 3.14]. */
function assertVersion({ version }: ScimRow, ifMatch: string | undefined): void {
  if (ifMatch === undefined || ifMatch.trim() === '*') return;
  const given = ifMatch.split(',').map((each) => each.trim().replace(/^W\//, ''));
  if (!given.includes(`"${version}"`)) throw new ProblemError(412, 'Changed meanwhile', `It is at version W/"${version}" now.`);
}

/** A name or key that a filter asks for exactly: then one is looked up, and not all of them looked through. */
function soughtBy(kind: ScimKind, filter: Filter): Sought | null {
  if (filter.is === 'and') return soughtBy(kind, filter.left) ?? soughtBy(kind, filter.right);
  if (filter.is !== 'compared' || filter.by !== 'eq' || typeof filter.value !== 'string' || filter.path.sub || filter.path.extension)
    return null;
  const { name } = filter.path.attribute;
  if (name === 'id') return { column: 'id', is: filter.value };
  if (name === 'externalId') return { column: 'external_id', is: filter.value };
  return name === (kind.name === 'User' ? 'userName' : 'displayName') ? { column: 'name_key', is: filter.value.toLowerCase() } : null;
}
