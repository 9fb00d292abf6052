import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { InjectDataSource } from '@nestjs/typeorm';
import {
  ComparedDrafts,
  DraftApplied,
  DraftApply,
  DraftAtPlace,
  DraftAtPlaceQuery,
  DraftDropQuery,
  DraftEdit,
  DraftView,
  type Change,
  type Setting,
} from '@underpass/contracts';
import { compare, ImpactTally, isEmpty, narrowed, same, type NarrowTo } from '@underpass/core';
import { DataSource } from 'typeorm';
import { z } from 'zod';
import { ResultsService } from '../crossing/results.service.js';
import { Draft } from '../database/entities.js';
import { Answers, AnswersNothing } from '../edge/answers.js';
import { AtOnce, MB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { beside, PaperService } from '../estate/paper.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { eachInSlices } from '../jobs/slices.js';
import { ProblemError } from '../problems/problem.js';
import type { SignedRequest } from '../signin/session.guard.js';
import { SettingsService } from './settings.service.js';

const Uuid = z.uuid();
const writtenSince = () =>
  new ProblemError(409, 'Changed meanwhile', 'Somebody wrote this draft since you saw it. Nothing was overwritten: look at it anew.');

/** Drafts that are worked on: written again, refreshed, compared, applied. */
@ApiTags('settings')
@Controller('drafts')
export class DraftsController {
  constructor(
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly settings: SettingsService,
    private readonly changes: ChangeService,
    private readonly paper: PaperService,
    @InjectDataSource() private readonly data: DataSource,
  ) {}

  @Get(':id')
  @Answers(DraftView)
  async one(@Param('id', { schema: Uuid }) id: string): Promise<DraftView> {
    return this.paper.draftView(await this.find(id));
  }

  /** Writes a draft again; where somebody else did meanwhile nothing is overwritten. */
  @Put(':id')
  @Answers(DraftView)
  @Takes(MB)
  async write(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: DraftEdit }) { name, change, seen }: DraftEdit,
  ): Promise<DraftView> {
    const draft = await this.find(id);
    if (change) {
      if (isEmpty(change)) throw new ProblemError(422, 'Nothing in it', 'A draft holds one step at least. Drop it instead.');
      this.paper.assertGood(change);
    }
    return this.written(draft, { ...(name ? { name } : {}), ...(change ? { change: this.paper.grounded(change) } : {}) }, seen);
  }

  /** Puts a draft on the estate of now: what others changed meanwhile is what it rests on from here. */
  @Post(':id/refresh')
  @Answers(DraftView)
  @HttpCode(200)
  async refresh(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: DraftEdit.pick({ seen: true }) }) { seen }: { seen: string },
  ): Promise<DraftView> {
    const draft = await this.find(id);
    return this.written(draft, { change: this.paper.grounded(draft.change) }, seen);
  }

  /** Drops a draft; where somebody wrote it since it was seen it stays. */
  @Delete(':id')
  @AnswersNothing()
  @HttpCode(204)
  async drop(
    @Param('id', { schema: Uuid }) id: string,
    @Query({ schema: DraftDropQuery }) { seen }: z.infer<typeof DraftDropQuery>,
  ): Promise<void> {
    const drafts = this.data.getRepository(Draft);
    const draft = await drafts.findOneBy({ id });
    if (!draft) return;
    if (seen !== undefined) this.assertSeen(draft, seen);
    const { affected } = await drafts.delete(seen === undefined ? { id } : { id, updatedAt: draft.updatedAt });
    if (affected !== 1 && (await drafts.existsBy({ id }))) throw writtenSince();
  }

  /** Two drafts beside each other, field by field. */
  @Get(':id/beside/:other')
  @Answers(ComparedDrafts)
  async compare(@Param('id', { schema: Uuid }) id: string, @Param('other', { schema: Uuid }) other: string): Promise<ComparedDrafts> {
    const [first, second] = [await this.find(id), await this.find(other)];
    return compare(this.store.model, first.change, second.change, Date.now()).slice(0, 2000);
  }

  /** What a draft would write at one place alone, and what stands there now. */
  @Get(':id/at')
  @Answers(DraftAtPlace)
  async at(
    @Param('id', { schema: Uuid }) id: string,
    @Query({ schema: DraftAtPlaceQuery }) to: z.infer<typeof DraftAtPlaceQuery>,
  ): Promise<DraftAtPlace> {
    const draft = await this.find(id);
    const { version, model } = this.store;
    const { change, left } = narrowed(model, draft.change, to);
    this.paper.assertGood(change);
    const entries = this.paper.writes(change).filter(({ before, after }) => !same(before, after)) as {
      before: Setting | null;
      after: Setting;
    }[];
    const replaced = entries.flatMap(({ before, after }) => (before ? [{ entry: before, becomes: after }] : []));
    const written = await this.settings.writtenOf(
      replaced.map(({ entry }) => entry.id),
      Date.now(),
    );
    return {
      version,
      change,
      steps: entries.length,
      left,
      replaced: replaced.map((each) => ({ ...each, written: written.get(each.entry.id) ?? null })),
    };
  }

  /**
   * Applies a draft, whole or at a nearer layer. Where it shuts anybody out, a reason has to be given, which is kept with it.
   */
  @Post(':id/apply')
  @Answers(DraftApplied)
  @AtOnce('apply', 2, 4)
  @HttpCode(200)
  async apply(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: DraftApply }) { seen, narrow, reason }: DraftApply,
    @Req() request: SignedRequest,
  ): Promise<DraftApplied> {
    const draft = await this.find(id);
    this.assertSeen(draft, seen);
    const { change, left } = this.fresh(draft, narrow);
    if (change.hypotheses.length)
      throw new ProblemError(422, 'Waits for work outside', 'Part of this draft waits for work outside. Apply it once that is done.');
    if (change.patches.length === 0)
      throw new ProblemError(422, 'Nothing to apply', 'Nothing of this draft stands at a farther layer than that.');
    this.paper.assertGood(change);
    const shutOut = await this.shutOut(change);
    if (shutOut > 0 && !reason)
      throw new ProblemError(
        422,
        'A reason is needed',
        `This shuts out ${shutOut === 1 ? 'one crossing that opens' : `${shutOut} crossings that open`} now. Say why, and apply it again.`,
        [{ field: 'reason', problem: 'must say why people may be shut out' }],
      );
    const where = narrow ? `, at ${narrow.layer} ${narrow.target}` : '';
    const summary = `${draft.name}${where}${reason ? `: ${reason}` : ''}`.slice(0, 500);
    // once more where nobody else can write
    const plan = () => this.paper.writes(this.fresh(draft, narrow).change);
    const applied = await this.changes.apply(plan, request.user.name, summary, {
      ...(narrow ? { seen: narrow.version } : {}),
      beside: (writes) => beside(change, writes),
    });
    return { ...applied, left };
  }

  /** A draft, or what of it goes to a nearer place, as it is applied: what somebody wrote meanwhile is never overwritten unseen. */
  private fresh(draft: Draft, narrow?: NarrowTo): { change: Change; left: number } {
    const applied = narrow ? narrowed(this.store.model, draft.change, narrow) : { change: draft.change, left: 0 };
    const [first, ...more] = this.paper.draftView({ ...draft, change: applied.change }).conflicts;
    if (first)
      throw new ProblemError(
        409,
        'Changed since',
        `${first.text}${more.length > 0 ? `, and ${more.length} more` : ''}. Nothing was overwritten: refresh the draft, look at it again, then apply it.`,
      );
    return applied;
  }

  /** Crossings that open now and would not any more. */
  private async shutOut(change: Change): Promise<number> {
    const tally = new ImpactTally(this.results.reader, change, ({ id }) => this.results.summary(id));
    await eachInSlices(tally.crossings, (ref) => tally.add(ref));
    return tally.result().newlyBlocked;
  }

  private async find(id: string): Promise<Draft> {
    const draft = await this.data.getRepository(Draft).findOneBy({ id });
    if (!draft) throw new ProblemError(404, 'Not found', 'There is no such draft. It may have been dropped.');
    return draft;
  }

  private assertSeen({ updatedAt }: Draft, seen: string): void {
    if (updatedAt.toISOString() !== seen) throw writtenSince();
  }

  /** Writes over the version that was seen, in one statement: of two who do at once the second is told. */
  private async written(draft: Draft, more: Partial<Pick<Draft, 'name' | 'change'>>, seen: string): Promise<DraftView> {
    this.assertSeen(draft, seen);
    // later than the one before, though the clock stood still
    const updatedAt = new Date(Math.max(Date.now(), draft.updatedAt.getTime() + 1));
    const { affected } = await this.data
      .getRepository(Draft)
      .createQueryBuilder()
      .update()
      .set({ ...(more as object), updatedAt })
      .where("id = :id AND date_trunc('milliseconds', updated_at) = :was", { id: draft.id, was: draft.updatedAt })
      .execute();
    if (affected !== 1) throw writtenSince();
    return this.paper.draftView({ ...draft, ...more, updatedAt });
  }
}
