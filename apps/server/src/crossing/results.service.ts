import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import {
  Alike,
  areaOf,
  crossingsTouched,
  FactsReader,
  nextMoment,
  summariseCrossing,
  together,
  touchedBy,
  touchOf,
  type Board,
  type CrossingRef,
  type EstateModel,
  type Laid,
  type LeadingFinding,
  type Moment,
  type Over,
  type Summary,
} from '@underpass/core';
import type { Moved } from '@underpass/contracts';
import { setImmediate } from 'node:timers/promises';
import { Subject, type Subscription } from 'rxjs';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { EstateStore } from '../estate/estate.store.js';
import type { Found } from './found.js';
import { movedBy, nobodyMoved } from './moved.js';
import type { Result } from './orderedResults.js';
import { Stand } from './stand.js';
import { eachInSlices, inSlices } from '../jobs/slices.js';
import { VerdictHistory } from './verdictHistory.js';

/** How often it is told how far an evaluation is, ms; a shorter one is not told of. */
const tellEveryMs = 300;
/** Objects written at once beyond which everything is evaluated anew. */
const mostFollowed = 5000;
/** How long a worker lets the servers start in peace, before it evaluates for work to come, ms. */
const idleMs = 4000;
/** The longest a timer can wait; a later moment is looked for again then, ms. */
const longestTimerMs = 2 ** 31 - 1;

/** What waits to be evaluated: everything, what was laid over the estate since, and what time alone changes. */
interface Pending {
  version: number;
  cause: string;
  everything: boolean;
  over: Over | null;
  moment: Moment | null;
}
const nothing: Pending = { version: 0, cause: '', everything: false, over: null, moment: null };

/**
 * Results of all crossings at an estate version. Follows the estate: only crossings that can have changed are evaluated again, in
 * slices of time, and a burst of edits is taken together.
 */
@Injectable()
export class ResultsService implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('results');
  private stand = new Stand();
  private leadingNow: { version: number; found: Promise<LeadingFinding[]> } | null = null;
  private pending: Pending | null = null;
  private work: Promise<void> | null = null;
  private timer: NodeJS.Timeout | null = null;
  private subscription: Subscription | null = null;
  private stopped = false;
  private begun = false;
  private readonly history: VerdictHistory | null;
  reader: FactsReader;
  version = 0;
  /** Everything that time alone changes is taken up to here, ms since 1970; edits in between move the reader’s clock, not this. */
  private takenToMs = 0;
  /** Sent when results stand for a new version. */
  readonly ready = new Subject<{ version: number; cause: string; moved: Moved | null }>();
  /** How far an evaluation is that takes longer than a moment. */
  readonly progress = new Subject<{ done: number; total: number }>();

  constructor(
    private readonly store: EstateStore,
    @InjectDataSource() data: DataSource,
    @Inject(CONFIG) private readonly config: Config,
  ) {
    // of all processes the servers alone keep it
    this.history = config.role === 'server' ? new VerdictHistory(data) : null;
    this.reader = new FactsReader(store.model, Date.now());
  }

  async onModuleInit(): Promise<void> {
    this.subscription = this.store.changes.subscribe(({ version, cause, over }) =>
      this.queue({ version, cause, ...(over ? { over } : { everything: true }) }),
    );
    if (this.config.role === 'server') await this.standing();
    else
      setTimeout(() => {
        this.standing().catch((error: Error) => this.logger.error(error.message));
      }, idleMs).unref();
  }

  /** Resolves when results stand for everything written so far, also by others and not heard of yet. */
  async standing(): Promise<void> {
    await this.store.refresh('another server');
    this.begin();
    if (this.pending) this.work ??= this.run();
    await this.settled();
  }

  private begin(): void {
    if (this.begun) return;
    this.begun = true;
    this.queue({ version: this.store.version, cause: 'loaded', everything: true });
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    this.subscription?.unsubscribe();
    if (this.timer) clearTimeout(this.timer);
    await this.work?.catch(() => undefined);
    await this.history?.written();
  }

  /** Resolves when every change known so far is evaluated. */
  async settled(): Promise<void> {
    while (this.work) await this.work;
  }

  /** Resolves when the history of everything evaluated so far is written. */
  async remembered(): Promise<void> {
    await this.history?.written();
  }

  /** Whatever comes while something is evaluated waits, and is then taken together. */
  private queue(more: Partial<Pending>): void {
    if (!this.begun) return;
    const waits = this.pending ?? nothing;
    const followed = (waits.over?.writes.length ?? 0) + (more.over?.writes.length ?? 0) <= mostFollowed;
    // once everything is evaluated anew, what was laid over is of no account: a worker that nobody asks would gather it for ever
    const everything = waits.everything || (more.everything ?? false) || !followed;
    this.pending = {
      version: Math.max(waits.version, more.version ?? this.version),
      cause: more.cause ?? waits.cause,
      everything,
      over: everything ? null : waits.over && more.over ? together(waits.over, more.over) : (more.over ?? waits.over),
      moment: more.moment ?? waits.moment,
    };
    // a worker waits until work asks: then it takes everything that came together
    if (this.config.role === 'server') this.work ??= this.run();
  }

  private async run(): Promise<void> {
    // a turn later: what comes at the same time is taken together
    await setImmediate();
    try {
      for (let next = this.pending; next && !this.stopped; next = this.pending) {
        const { version, cause } = next;
        this.pending = null;
        await this.evaluate(next).catch((error: Error) => {
          // a fault of ours: everything is evaluated again, until it stands
          this.logger.error(`the crossings could not be evaluated, trying again: ${error.stack ?? error.message}`);
          if (!this.stopped) setTimeout(() => this.queue({ version, cause, everything: true }), 3000).unref();
        });
      }
    } finally {
      this.work = null;
    }
  }

  private async evaluate(pending: Pending): Promise<void> {
    // what lies over most of the estate is no longer followed one by one
    let moved: Moved | null = nobodyMoved;
    if (pending.everything) moved = await this.everything(pending);
    else {
      // the store’s model of this very turn is the one that what waited was laid over
      if (pending.over) moved = await this.follow(pending, pending.over, this.store.model);
      if (pending.moment) await this.followTime(pending, pending.moment);
    }
    this.version = Math.max(this.version, pending.version);
    this.ready.next({ version: this.version, cause: pending.cause, moved });
    this.waitForMoment();
  }

  private async everything({ version, cause }: Pending): Promise<Moved | null> {
    const { model } = this.store;
    const reader = new FactsReader(model, Date.now());
    const refs = await inSlices(model.listing());
    await inSlices(reader.summing());
    const found = await this.summarise(reader, refs);
    await this.history?.keep(found, this.count === 0, { version, momentMs: 0, cause });
    // made aside: nobody is told a part of it
    const stand = new Stand();
    await stand.fill(found, model);
    const isFirst = this.count === 0;
    const gone = [...this.stand.ordered.byId.values()].flatMap(({ ref }) => (stand.ordered.byId.has(ref.id) ? [] : [ref]));
    const moved = movedBy(found, gone);
    [this.stand, this.reader, this.takenToMs] = [stand, reader, reader.atMs];
    return isFirst ? null : moved;
  }

  private async follow({ version, cause }: Pending, over: Over, now: EstateModel): Promise<Moved> {
    const after = this.reader.over(now.laidOver(this.reader.model, over), Date.now());
    const { after: touched, gone } = touchedBy(this.reader, after);
    const found = await this.summarise(after, touched);
    await this.history?.keep(found, false, { version, momentMs: 0, cause });
    const moved = movedBy(found, gone);
    for (const { id } of gone) this.stand.drop(id);
    this.reader = after.settledOn(after.model.settled());
    await this.stand.put(found, this.reader.model);
    if (after.model.laid) await this.tellAnew(over, after.model.laid, touched);
    return moved;
  }

  private async followTime({ version, cause }: Pending, { atMs, touch }: Moment): Promise<void> {
    // a timer may go off a millisecond early
    const reader = this.reader.settledOn(this.reader.model, Math.max(Date.now(), atMs));
    const found = await this.summarise(reader, [...crossingsTouched(touch, reader.model)]);
    await this.history?.keep(found, false, { version, momentMs: atMs, cause });
    this.reader = reader;
    this.takenToMs = Math.max(this.takenToMs, atMs);
    await this.stand.put(found, reader.model);
  }

  private async summarise(reader: FactsReader, refs: readonly CrossingRef[]): Promise<Found[]> {
    const found: Found[] = [];
    const summaries = new Alike((facts) => summariseCrossing(facts));
    let done = 0;
    let toldAt = performance.now();
    await eachInSlices(refs, (ref) => {
      const facts = reader.read(ref);
      if (facts) found.push({ ref, summary: summaries.of(facts), before: this.stand.ordered.byId.get(ref.id) });
      if (++done % 100 || performance.now() - toldAt < tellEveryMs) return;
      toldAt = performance.now();
      this.progress.next({ done, total: refs.length });
    });
    return found;
  }

  /**
   * What comes out the same and is told otherwise: a location that is counted in another row now takes its crossings there,
   * whoever was renamed is found by the new name, and findings have it in their words.
   */
  private async tellAnew({ writes }: Over, laid: Laid, evaluated: readonly CrossingRef[]): Promise<void> {
    // what was measured renames nothing
    if (writes.length === 0) return;
    if (writes.some(({ kind }) => kind === 'person' || kind === 'location' || kind === 'resource')) this.stand.ordered.forgetTexts();
    const { model } = this.reader;
    const known = new Set(evaluated.map(({ id }) => id));
    await eachInSlices([...crossingsTouched(touchOf(laid, model, 'words'), model)], (ref) => {
      if (!known.has(ref.id)) this.stand.setArea(ref.id, areaOf(model, ref.location));
    });
  }

  /** When time alone changes something next, that is evaluated. */
  private waitForMoment(): void {
    if (this.timer) clearTimeout(this.timer);
    const moment = nextMoment(this.reader.model, this.takenToMs);
    if (!moment || this.stopped) return;
    const waitMs = Math.max(0, moment.atMs - Date.now());
    this.timer = setTimeout(
      () => {
        if (waitMs > longestTimerMs) this.waitForMoment();
        else this.queue({ cause: 'time passed', moment });
      },
      Math.min(waitMs, longestTimerMs),
    ).unref();
  }

  get count(): number {
    return this.stand.ordered.byId.size;
  }
  ref(id: string): CrossingRef | undefined {
    return this.stand.ordered.byId.get(id)?.ref;
  }
  summary(id: string): Summary | undefined {
    return this.stand.ordered.byId.get(id)?.summary;
  }
  /** All results, worst first. */
  sorted(): readonly Result[] {
    return this.stand.ordered.list();
  }

  /** The words a search looks through, lower case; made when first asked for. */
  textOf(result: Result): string {
    if (result.text === null) {
      const { people, locations, resources } = this.reader.model;
      const { person, endpoint, location, resource } = result.ref;
      result.text =
        `${people.get(person)?.name ?? ''} ${endpoint} ${locations.get(location)?.name ?? ''} ${resources.get(resource)?.name ?? ''} ${person}`.toLowerCase();
    }
    return result.text;
  }

  board(): Board {
    return this.stand.tally.board(this.reader.model);
  }

  /** The findings that cost most; worked out in slices, once for a version. */
  leading(): Promise<LeadingFinding[]> {
    if (this.leadingNow?.version !== this.version)
      this.leadingNow = { version: this.version, found: inSlices(this.stand.leading.work(this.reader)) };
    return this.leadingNow.found;
  }
}
