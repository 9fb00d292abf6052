import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { Change, ObjectKind } from '@underpass/contracts';
import { doing, settingTo, type ObjectChange } from '@underpass/core';
import { DataSource } from 'typeorm';
import { AcceptanceService } from '../access/acceptance.service.js';
import { EntryLinkService } from '../access/entryLink.service.js';
import { ResultsService } from '../crossing/results.service.js';
import { AcceptanceRun, Draft } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { PaperService } from '../estate/paper.service.js';
import { beganDaysAgo, pastSteps, writesOf } from './past.js';

const engineer = 'Ines Farrow';
const dayMs = 86_400_000;

/**
 * A month of the demo, so that every screen shows what it is for: changes with the verdicts before and after them, drafts, links that are
 * in use, an acceptance run, views. The changes are really made and evaluated one after the other; only their times are set back.
 */
@Injectable()
export class DemoPast {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    private readonly results: ResultsService,
    private readonly paper: PaperService,
    private readonly links: EntryLinkService,
    private readonly acceptance: AcceptanceService,
  ) {}

  async load(): Promise<void> {
    await this.month();
    await this.drafts();
    await this.linksInUse();
    await this.acceptanceRun();
    await this.views();
  }

  private readonly all = (kind: ObjectKind) => this.store.all(kind);
  private readonly find = (kind: ObjectKind, id: string) => this.store.find(kind, id) as (Record<string, unknown> & { id: string }) | undefined;

  /** Puts the estate back to how it was a month ago, and lets what happened since happen again. */
  private async month(): Promise<void> {
    const steps = pastSteps.map((step) => ({ step, ...writesOf(step, this.all, this.find) }));
    const back = await this.make(steps.flatMap((each) => each.back), engineer, 'The demo a month ago');
    // it began so: that it had to be put back is nobody's history
    await this.results.remembered();
    await this.data.query(
      'DELETE FROM verdict_history h WHERE EXISTS (SELECT FROM verdict_history l WHERE l.crossing = h.crossing AND l.version > h.version)',
    );
    await this.data.query('DELETE FROM audit_entry WHERE change_id = $1', [back]);
    await this.data.query('DELETE FROM change_set WHERE id = $1', [back]);
    await this.data.query("UPDATE verdict_history SET cause = 'loaded'");
    await this.setBack(beganDaysAgo, null);
    for (const { step, forth } of steps) {
      const from = this.store.version;
      const id = await this.make(forth, step.by, step.summary);
      await this.results.remembered();
      await this.setBack(step.daysAgo, { id, from });
    }
  }

  private async make(writes: ObjectChange[], by: string, summary: string): Promise<string> {
    const plan = () => writes.map((write) => ({ ...write, before: this.store.find(write.kind, write.id) ?? null }));
    const { changeId } = await this.changes.apply(plan, by, summary);
    await this.results.settled();
    return changeId;
  }

  /** Sets the times of a change and of the verdicts that came of it back; without a change, of all there is so far. */
  private async setBack(days: number, change: { id: string; from: number } | null): Promise<void> {
    const at = new Date(Date.now() - days * dayMs);
    await this.data.query('UPDATE change_set SET at = $1 WHERE $2::uuid IS NULL OR id = $2', [at, change?.id ?? null]);
    await this.data.query('UPDATE verdict_history SET at = $1 WHERE version > $2', [at, change?.from ?? 0]);
  }

  private async drafts(): Promise<void> {
    const kept: [string, Change, string | null, number][] = [
      ['Hold screens at Wexcombe at 1080p', doing(settingTo('picture.heldHeight', 'location', 'wexcombe', 1080)), 'P136~WEX-TC-020~timetable', 4],
      ['Let the second factor take 25 s on the vessels', doing(...this.onVessels()), null, 1],
    ];
    for (const [name, change, crossing, days] of kept)
      await this.data.getRepository(Draft).insert({
        id: uuidV7(),
        name,
        crossing,
        change: this.paper.grounded(change) as never,
        createdBy: engineer,
        createdAt: new Date(Date.now() - days * dayMs),
      });
  }

  private onVessels() {
    return [...(this.all('location') as Iterable<{ id: string; kind: string }>)]
      .filter(({ kind }) => kind === 'vessel')
      .map(({ id }) => settingTo('security.secondFactorTimeoutS', 'location', id, 25));
  }

  private async linksInUse(): Promise<void> {
    const made = [
      ...(await this.links.make(
        { resource: 'workshop', targetKind: 'location', target: 'brack', everyEndpoint: true, caption: 'Workshop orders', days: 180 } as never,
        engineer,
      )),
      ...(await this.links.make(
        { resource: 'counter', targetKind: 'location', target: 'tolmouth', everyEndpoint: false, caption: 'Ticket counter', days: 90 } as never,
        engineer,
      )),
    ];
    for (const [i, { id }] of made.entries())
      await this.data.query('UPDATE entry_link SET created_at = $2, opened = $3, opened_at = $4 WHERE id = $1', [
        id,
        new Date(Date.now() - 20 * dayMs),
        3 + ((i * 7) % 23),
        new Date(Date.now() - (i % 4) * dayMs),
      ]);
  }

  /** Two thirds have looked; one did not see what they should. */
  private async acceptanceRun(): Promise<void> {
    await this.acceptance.start(engineer);
    const runs = this.data.getRepository(AcceptanceRun);
    const [run] = await runs.find({ order: { startedAt: 'DESC' }, take: 1 });
    if (!run) return;
    const looked = Math.ceil((run.testers.length * 2) / 3);
    const at = (i: number) => new Date(Date.now() - (8 - i / 4) * dayMs).toISOString();
    const testers = run.testers.map((tester, i) =>
      i < looked ? { ...tester, saw: i === 2 ? tester.expected.slice(1) : tester.expected, at: at(i), by: engineer } : tester,
    );
    await runs.update({ id: run.id }, { testers, startedAt: new Date(Date.now() - 8 * dayMs) });
  }

  private async views(): Promise<void> {
    const kept = [
      ['Vessels, slowest first', '/crossings', '?area=Vessels&sort=-delayMs'],
      ['By finding, not known', '/crossings', '?by=finding&verdict=unknown'],
      ['Clients, oldest first', '/estate/endpoint', '?sort=clientVersion'],
    ];
    for (const [name, path, search] of kept)
      await this.data.query(
        `INSERT INTO kept_view (id, user_id, name, path, search, for_all, at)
           SELECT $1, id, $2, $3, $4, true, now() FROM app_user WHERE name = $5 ON CONFLICT DO NOTHING`,
        [uuidV7(), name, path, search, engineer],
      );
  }
}

