import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { writeRows, type ListOutcome, type TableMap } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { lstat, mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { CONFIG, type Config } from '../config.js';
import { JobsService } from '../jobs/jobs.service.js';
import { ProblemError } from '../problems/problem.js';
import { ListsService } from './lists.service.js';

/** How often the folder is looked through, ms. */
const everyMs = 5000;
/** A file that somebody may still be writing is left until it stays as it is from one look to the next. */
const mostBytes = 60 * 1024 * 1024;
/** Longer than a list takes; what is in work for longer was left by a server that ended. */
const leftMs = 15 * 60_000;
/** Name under which its changes stand. */
const inboxName = 'Inbox';
const folders = { working: '.working', done: 'done', refused: 'refused' } as const;

/**
 * A folder in which other systems put their lists: beneath it a folder for each kept mapping, by its name. One file is one list: taken
 * in, it is moved to `done`, and one that is refused to `refused`, with the reason beside it.
 */
@Injectable()
export class InboxService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly logger = new Logger('inbox');
  /** Size and time of each file as it was seen last. */
  private seen = new Map<string, string>();
  private timer: NodeJS.Timeout | null = null;
  private looking: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @InjectDataSource() private readonly data: DataSource,
    private readonly lists: ListsService,
    private readonly jobs: JobsService,
  ) {}

  onApplicationBootstrap(): void {
    if (this.config.inbox === null || this.config.role !== 'server') return;
    const again = (): void => {
      this.looking = this.look()
        .catch((error: Error) => this.logger.warn(`the inbox cannot be looked through: ${error.message}`))
        .finally(() => {
          if (!this.stopped) this.timer = setTimeout(again, everyMs).unref();
        });
    };
    again();
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    await this.looking;
  }

  /** One look through the folder: files that did not change since the last one are taken, one after the other. */
  async look(): Promise<void> {
    const inbox = this.config.inbox as string;
    const now = new Map<string, string>();
    for (const mapping of await this.foldersIn(inbox))
      for (const file of await this.filesIn(join(inbox, mapping))) {
        if (this.stopped) return;
        const path = join(inbox, mapping, file);
        const { size, mtimeMs } = await lstat(path);
        const state = `${size} ${mtimeMs}`;
        if (this.seen.get(path) === state) await this.take(mapping, path);
        else now.set(path, state);
      }
    this.seen = now;
  }

  private async foldersIn(inbox: string): Promise<string[]> {
    const entries = await readdir(inbox, { withFileTypes: true });
    return entries.filter((each) => each.isDirectory() && !each.name.startsWith('.')).map(({ name }) => name);
  }

  /** Plain files alone: what is a link leads somewhere that nobody gave. */
  private async filesIn(folder: string): Promise<string[]> {
    await this.putBack(folder);
    const entries = await readdir(folder, { withFileTypes: true });
    return entries.filter((each) => each.isFile() && !each.name.startsWith('.')).map(({ name }) => name);
  }

  /** What a server that ended had in work waits again. */
  private async putBack(folder: string): Promise<void> {
    const working = join(folder, folders.working);
    const left = await readdir(working).catch(() => []);
    for (const name of left) {
      const path = join(working, name);
      const { mtimeMs, ctimeMs } = await lstat(path);
      if (Date.now() - Math.max(mtimeMs, ctimeMs) > leftMs) await rename(path, join(folder, name));
    }
  }

  private async take(mapping: string, path: string): Promise<void> {
    const folder = join(this.config.inbox as string, mapping);
    const name = basename(path);
    const working = join(folder, folders.working, name);
    for (const each of Object.values(folders)) await mkdir(join(folder, each), { recursive: true });
    try {
      await rename(path, working);
    } catch {
      // another server was quicker
      return;
    }
    const stamp = new Date().toISOString().replace(/[:.]/g, '-');
    const target = (where: 'done' | 'refused', tail = '') => join(folder, folders[where], `${stamp} ${name}${tail}`);
    try {
      const outcome = await this.takeIn(mapping, working, name);
      await rename(working, target('done'));
      await writeFile(target('done', '.result.txt'), resultText(outcome));
      if (outcome.rejectedRows.length) await writeFile(target('done', '.not-taken.csv'), notTaken(outcome));
    } catch (error) {
      // whoever starts next takes it up again
      if (this.stopped) return void (await rename(working, path));
      const reason = error instanceof ProblemError ? error.problem.detail : (error as Error).message;
      await writeFile(target('refused', '.reason.txt'), `${reason}\n`);
      await rename(working, target('refused'));
    }
  }

  private async takeIn(mapping: string, path: string, name: string): Promise<ListOutcome> {
    const [kept] = (await this.data.query('SELECT map FROM table_map WHERE lower(name) = lower($1)', [mapping])) as { map: TableMap }[];
    if (!kept)
      throw new Error(
        `No mapping is kept by the name “${mapping}”. Take a list in by hand first, and keep its mapping under the name of this folder.`,
      );
    if ((await lstat(path)).size > mostBytes) throw new Error('The file is larger than 60 MB. Divide it.');
    const { id } = await this.lists.keep(name, await readFile(path), inboxName);
    const { id: job } = await this.lists.start(id, { map: kept.map, mends: {}, source: mapping, over: false, remove: [] }, true, inboxName);
    for (;;) {
      await wait(300);
      const { state, message, result } = await this.jobs.one(job);
      if (state === 'done') return result as ListOutcome;
      if (state === 'failed' || state === 'cancelled') throw new Error(message ?? 'It was called off.');
      if (this.stopped) throw new Error('the server stops');
    }
  }
}

function resultText({ applied, added, changed, unchanged, rejectedTotal, missingTotal, heldTotal, notes }: ListOutcome): string {
  const lines = [
    applied ? 'Taken in.' : 'Nothing was written.',
    `new: ${added}`,
    `changed: ${changed}`,
    `as they were: ${unchanged}`,
    `not taken: ${rejectedTotal}`,
    `not in this list: ${missingTotal}`,
    ...(heldTotal ? [`left as they are because another source decides: ${heldTotal} fields`] : []),
    ...notes,
  ];
  return `${lines.join('\n')}\n`;
}

/** The rows that were not taken, each with its reasons as the first column. */
function notTaken({ rejected, rejectedRows }: ListOutcome): string {
  const reasons = (row: number) =>
    rejected
      .filter((each) => each.row === row)
      .map(({ column, text, wanted }) => `${column ? `${column}: ` : ''}${text}; wanted: ${wanted}`)
      .join(' | ');
  const most = rejectedRows.reduce((width, { cells }) => Math.max(width, cells.length), 0);
  const heads = ['Why not taken', 'Row', ...Array.from({ length: most }, (_, i) => `Cell ${i + 1}`)];
  return writeRows(
    heads,
    rejectedRows.map(({ row, cells }) => [reasons(row), String(row), ...cells]),
  );
}
