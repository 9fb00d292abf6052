import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { LdapSettings, type FeedLast, type JobView, type LdapTried } from '@underpass/contracts';
import { feedOfDirectory } from '@underpass/core';
import { DataSource, type EntityManager } from 'typeorm';
import { CONFIG, type Config } from '../../config.js';
import type { JobRow } from '../../database/entities.js';
import { Reading } from '../../edge/reading.service.js';
import { ChangeService } from '../../estate/change.service.js';
import { EstateStore } from '../../estate/estate.store.js';
import { JobsService } from '../../jobs/jobs.service.js';
import type { Progress } from '../../jobs/progress.js';
import { AllowedTargets } from '../../outward/targets.js';
import { notFound, ProblemError } from '../../problems/problem.js';
import { Secrets } from '../../secrets/secrets.js';
import { FeedService } from '../feeds/feed.service.js';
import type { DirectoryRead } from './over.js';
import { portOf, readLdap, type PlainEntry } from './reader.js';

/** How often it is looked whether a directory is due, ms. */
const everyMs = 15_000;
/** Name under which runs stand that nobody asked for. */
const scheduleName = 'Schedule';
const readWithinMs = 120_000;
/** Entries of a try that are looked at, and those of a kind that are shown. */
const tried = { entries: 400, shown: 10 };
/** Reads of a directory again where the estate changed while it was compared. */
const mostTries = 3;

export interface FeedRow {
  id: string;
  name: string;
  options: unknown;
  secret: string | null;
}

/** Directories that are read: tried, read when somebody says so or by themselves, compared and laid over the estate. */
@Injectable()
export class LdapService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly logger = new Logger('directory');
  private readonly secrets: Secrets;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @InjectDataSource() private readonly data: DataSource,
    private readonly targets: AllowedTargets,
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly feeds: FeedService,
    private readonly changes: ChangeService,
    private readonly store: EstateStore,
  ) {
    this.secrets = new Secrets(config.secretKey);
    jobs.takes('directory', (job, progress) => this.work(job, progress));
  }

  onApplicationBootstrap(): void {
    if (this.config.role !== 'server') return;
    const look = () =>
      void this.due().catch((error: Error) => this.logger.warn(`directories that are due could not be read: ${error.message}`));
    this.timer = setInterval(look, everyMs).unref();
  }
  onApplicationShutdown(): void {
    if (this.timer) clearInterval(this.timer);
  }

  sealed = (secret: string): string => this.secrets.seal(secret);
  private opened(secret: string | null): string | null {
    if (secret === null) return null;
    const text = this.secrets.open(secret);
    if (text === null)
      throw new ProblemError(422, 'Directory', 'The password that is kept was sealed with another SECRET_KEY. Type it again.');
    return text;
  }

  /** The first few entries, as they would be taken. Nothing is written. */
  async try(settings: LdapSettings, secret: string | null): Promise<LdapTried> {
    const { host, port } = portOf(settings.address);
    const target = await this.targets.of(host, port);
    const entries: PlainEntry[] = [];
    for await (const part of readLdap(settings, secret, target)) {
      entries.push(...part);
      if (entries.length >= tried.entries) break;
    }
    const read = entries.map(([dn, attributes], i) => ({ dn, attributes: new Map(attributes), line: i + 1 }));
    const { feed, problems } = feedOfDirectory(read, mappingOf(settings));
    const names = new Map(feed.groups.map(({ key, name }) => [key, name]));
    const members = new Map<string, number>();
    for (const { groups } of feed.people) for (const key of groups) members.set(key, (members.get(key) ?? 0) + 1);
    // of a part of a directory members are missing that are there: that is no fault of it
    const notes =
      entries.length >= tried.entries ? [] : problems.slice(0, 10).map(({ dn, text, wanted }) => `${dn} ${text}; wanted: ${wanted}`);
    return {
      people: feed.people.slice(0, tried.shown).map(({ key, match, name, place, groups }) => ({
        dn: key,
        key: match,
        name,
        place,
        groups: groups.map((each) => names.get(each) ?? each),
      })),
      groups: feed.groups.slice(0, tried.shown).map(({ key, name }) => ({ dn: key, name, members: members.get(key) ?? 0 })),
      notes,
    };
  }

  /** The password that is kept for a directory, to try other settings with, as long as it goes to the same machine under the same name. */
  async kept(id: string, settings: LdapSettings): Promise<string | null> {
    return this.opened(assertSameTarget(await this.row(id), settings).secret);
  }

  async row(id: string, run: Pick<EntityManager, 'query'> = this.data): Promise<FeedRow> {
    const [row] = (await run.query(`SELECT id, name, options, secret FROM feed WHERE kind = 'ldap' AND id = $1`, [id])) as FeedRow[];
    if (!row) throw notFound('directory', id);
    return row;
  }

  async run(id: string, allow: boolean, by: string): Promise<JobView> {
    const { name } = await this.row(id);
    return this.jobs.start({ kind: 'directory', name: `Directory ${name}`, by, request: { id, allow }, atMost: { own: 2, all: 2 } });
  }

  /** Starts what is due; of several servers one does. */
  async due(): Promise<void> {
    const due = (await this.data.query(
      `UPDATE feed SET next_at = now() + (options->>'everyMinutes')::int * interval '1 minute'
       WHERE kind = 'ldap' AND next_at <= now() AND options->>'everyMinutes' IS NOT NULL RETURNING id`,
    )) as [{ id: string }[], number];
    for (const { id } of due[0]) await this.run(id, false, scheduleName);
  }

  private async work({ request }: JobRow, progress: Progress): Promise<FeedLast> {
    const { id, allow } = request as { id: string; allow: boolean };
    try {
      const last = await this.read(id, allow, progress);
      await this.remember(id, last);
      return last;
    } catch (error) {
      const message = error instanceof ProblemError ? error.problem.detail : (error as Error).message;
      await this.remember(id, { ...nothing, state: 'failed', message });
      throw error;
    }
  }

  private async remember(id: string, last: FeedLast): Promise<void> {
    await this.data.query(`UPDATE feed SET last = $2, last_at = now() WHERE id = $1`, [id, JSON.stringify(last)]);
  }

  private async read(id: string, allow: boolean, progress: Progress): Promise<FeedLast> {
    const row = await this.row(id);
    const settings = LdapSettings.parse(row.options);
    const { host, port } = portOf(settings.address);
    const target = await this.targets.of(host, port);
    const pages: Uint8Array[] = [];
    let entries = 0;
    progress.at('reading the directory', 0, 1);
    for await (const part of readLdap(settings, this.opened(row.secret), target)) {
      pages.push(Buffer.from(JSON.stringify(part)));
      entries += part.length;
      progress.at('reading the directory', entries, entries + settings.pageSize);
    }
    const from = { id, name: row.name, source: `ldap:${row.name}`, makePlaces: settings.makePlaces };
    for (let i = 1; ; i++) {
      progress.at('comparing', 0, 1);
      const read = await this.reading.run(
        'readDirectory',
        {
          pages,
          mapping: mappingOf(settings),
          databaseUrl: this.config.databaseUrl,
          feed: id,
          source: from.source,
          makePlaces: from.makePlaces,
        },
        { withinMs: readWithinMs },
      );
      const stop = stopped(read, settings.limitPercent, allow);
      if (stop) return stop;
      progress.at('writing', 0, read.outcome.writes.length);
      const last = await this.put(from, read);
      if (last) {
        await this.store.refresh(`Directory ${row.name}`).catch(() => this.store.catchUp(`Directory ${row.name}`));
        return { ...last, people: read.people, groups: read.groups, notes: [...read.problems, ...last.notes].slice(0, 50) };
      }
      if (i >= mostTries)
        throw new ProblemError(
          409,
          'Changed meanwhile',
          'People or groups were changed each time while the directory was compared. It is read again next time.',
        );
    }
  }

  /** Writes what was read, unless what it was compared with changed since: then nothing is, and null comes back. */
  private put(from: Parameters<FeedService['write']>[1], read: DirectoryRead): Promise<FeedLast | null> {
    const { outcome, people } = read;
    return this.changes.locked(async (manager) => {
      const newer = outcome.writes.some(({ kind, id }) => Number(this.store.versionOf(kind, id) ?? 0) > read.version);
      if (newer) return null;
      return this.feeds.write(manager, from, outcome, `Directory ${from.name}: ${people} people`);
    });
  }
}

const nothing: FeedLast = { state: 'done', message: null, people: 0, groups: 0, added: 0, changed: 0, left: 0, held: 0, notes: [] };

const mappingOf = ({ keyAttribute, nameAttribute, placeAttribute }: LdapSettings) => ({
  key: keyAttribute || undefined,
  name: nameAttribute || undefined,
  place: placeAttribute || undefined,
});
/**
 * A kept password goes to the same machine under the same name alone.
 * @throws ProblemError 422 where it would go to another
 */
export function assertSameTarget(row: FeedRow, settings: LdapSettings): FeedRow {
  if (row.secret !== null && !sameTarget(LdapSettings.parse(row.options), settings))
    throw new ProblemError(422, 'Password', 'Type the password again: it is kept for another address or name.', [
      { field: 'secret', problem: 'must be given with another address or name' },
    ]);
  return row;
}
const sameTarget = (a: LdapSettings, b: LdapSettings): boolean =>
  a.address.toLowerCase() === b.address.toLowerCase() && a.bindDn === b.bindDn && a.certificates === b.certificates;

/** Where more people would leave than the limit it stops, and nothing is written until somebody says so. */
function stopped({ outcome, people, groups, known }: DirectoryRead, limitPercent: number, allow: boolean): FeedLast | null {
  const left = outcome.leaving.length;
  if (allow || left === 0 || left * 100 <= known * limitPercent) return null;
  const percent = Math.round((left / known) * 100);
  return {
    ...nothing,
    ...{ state: 'stopped', people, groups, left },
    message: `${left} of ${known} people would leave, ${percent} %: more than ${limitPercent} %. Nothing was written. See whether the base and the filter still hold; if they do, take it in all the same.`,
  };
}
