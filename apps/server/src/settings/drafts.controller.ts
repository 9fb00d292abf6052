import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  ComparedDrafts,
  DraftApplied,
  DraftApply,
  DraftAtPlace,
  DraftAtPlaceQuery,
  DraftDropQuery,
  DraftEdit,
  DraftRequest,
  DraftView,
  type Change,
  type Setting,
} from '@underpass/contracts';
import { compare, ImpactTally, isEmpty, lockedOver, narrowed, same, type NarrowTo } from '@underpass/core';
import { z } from 'zod';
import { ResultsService } from '../crossing/results.service.js';
import type { Draft } from '../database/entities.js';
import { Answers, AnswersNothing } from '../edge/answers.js';
import { AtOnce, MB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { beside, PaperService } from '../estate/paper.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { eachInSlices } from '../jobs/slices.js';
import { ProblemError } from '../problems/problem.js';
import type { SignedRequest } from '../signin/session.guard.js';
import { assertSeen, DraftsService } from './drafts.service.js';
import { SettingsService } from './settings.service.js';

const Uuid = z.uuid();
/** So many locks over a place are told. */
const mostLocks = 50;

/** Drafts: kept, written again, refreshed, compared, applied, dropped. */
@ApiTags('settings')
@Controller('drafts')
export class DraftsController {
  constructor(
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly settings: SettingsService,
    private readonly changes: ChangeService,
    private readonly paper: PaperService,
    private readonly drafts: DraftsService,
  ) {}

  @Get()
  @Answers(DraftView.array())
  latest(): Promise<DraftView[]> {
    return this.drafts.latest();
  }

  @Post()
  @Answers(DraftView, 201)
  @Takes(MB)
  keep(@Body({ schema: DraftRequest }) body: DraftRequest, @Req() request: SignedRequest): Promise<DraftView> {
    return this.drafts.keep(body, request.user.name);
  }

  @Get(':id')
  @Answers(DraftView)
  async one(@Param('id', { schema: Uuid }) id: string): Promise<DraftView> {
    return this.paper.draftView(await this.drafts.find(id));
  }

  /** Writes a draft again; where somebody else did meanwhile nothing is overwritten. */
  @Put(':id')
  @Answers(DraftView)
  @Takes(MB)
  async write(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: DraftEdit }) { name, change, seen }: DraftEdit,
  ): Promise<DraftView> {
    const draft = await this.drafts.find(id);
    if (change) {
      if (isEmpty(change)) throw new ProblemError(422, 'Nothing in it', 'A draft holds one step at least. Drop it instead.');
      this.paper.assertGood(change);
    }
    return this.drafts.written(draft, { ...(name ? { name } : {}), ...(change ? { change: this.paper.grounded(change) } : {}) }, seen);
  }

  /** Puts a draft on the estate of now: what others changed meanwhile is what it rests on from here. */
  @Post(':id/refresh')
  @Answers(DraftView)
  @HttpCode(200)
  async refresh(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: DraftEdit.pick({ seen: true }) }) { seen }: { seen: string },
  ): Promise<DraftView> {
    const draft = await this.drafts.find(id);
    return this.drafts.written(draft, { change: this.paper.grounded(draft.change) }, seen);
  }

  /** Drops a draft; where somebody wrote it since it was seen it stays. */
  @Delete(':id')
  @AnswersNothing()
  @HttpCode(204)
  async drop(
    @Param('id', { schema: Uuid }) id: string,
    @Query({ schema: DraftDropQuery }) { seen }: z.infer<typeof DraftDropQuery>,
  ): Promise<void> {
    await this.drafts.drop(id, seen);
  }

  /** Two drafts beside each other, field by field. */
  @Get(':id/beside/:other')
  @Answers(ComparedDrafts)
  async compare(@Param('id', { schema: Uuid }) id: string, @Param('other', { schema: Uuid }) other: string): Promise<ComparedDrafts> {
    const [first, second] = [await this.drafts.find(id), await this.drafts.find(other)];
    return compare(this.store.model, first.change, second.change, Date.now()).slice(0, 2000);
  }

  /** What a draft would write at one place alone, and what stands there now. */
  @Get(':id/at')
  @Answers(DraftAtPlace)
  async at(
    @Param('id', { schema: Uuid }) id: string,
    @Query({ schema: DraftAtPlaceQuery }) to: z.infer<typeof DraftAtPlaceQuery>,
  ): Promise<DraftAtPlace> {
    const draft = await this.drafts.find(id);
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
      locked: [...new Set(entries.map(({ after }) => after.key))]
        .flatMap((key) => lockedOver(model, key, to))
        .slice(0, mostLocks)
        .map((lock) => ({ ...lock, where: this.settings.where(lock.entry) })),
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
    const draft = await this.drafts.find(id);
    assertSeen(draft, seen);
    const { change, left } = this.fresh(draft, narrow);
    if (change.hypotheses.length)
      throw new ProblemError(422, 'Waits for work outside', 'Part of this draft waits for work outside. Apply it once that is done.');
    if (change.patches.length === 0)
      throw new ProblemError(422, 'Nothing to apply', 'Nothing of this draft stands at a farther layer than that.');
    this.paper.assertGood(change);
    const shutOut = reason ? 0 : await this.shutOut(change);
    if (shutOut > 0)
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

  /** Crossings that open now and would not any more, on the estate as it is written: verdicts from before would call one shut that opens by now. */
  private async shutOut(change: Change): Promise<number> {
    await this.results.standing();
    const tally = new ImpactTally(this.results.reader, change, ({ id }) => this.results.summary(id));
    await eachInSlices(tally.crossings, (ref) => tally.add(ref));
    return tally.result().newlyBlocked;
  }
}
