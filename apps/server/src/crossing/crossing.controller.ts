import { Body, Controller, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ApiTags } from '@nestjs/swagger';
import {
  ChangeRequest,
  ImpactRequest,
  TryRequest,
  type CrossingBetween,
  JobStarted,
  Applied,
  TryAnswer,
  AuditEntry,
  BoardAnswer,
  CrossingAnswer,
  ImpactAnswer,
  HistoryAnswer,
  SliceAnswer,
} from '@underpass/contracts';
import {
  sliceOf,
  viewAfter,
  viewOf,
  whyOf,
  type Board,
  type CrossingFacts,
  type CrossingView,
  type LeadingFinding,
  type Slice,
} from '@underpass/core';
import { DataSource } from 'typeorm';
import { z } from 'zod';
import type { SignedRequest } from '../signin/session.guard.js';
import { Needs } from '../signin/session.guard.js';
import { AtOnce, MB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { ChangeHistory } from '../estate/changeHistory.service.js';
import { beside, PaperService } from '../estate/paper.service.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { ImpactWork, type ImpactAt } from './impactWork.js';
import { ResultsService } from './results.service.js';
import { Answers } from '../edge/answers.js';

const Uuid = z.uuid();

@ApiTags('crossing')
@Controller()
export class CrossingController {
  constructor(
    private readonly results: ResultsService,
    private readonly changes: ChangeService,
    private readonly past: ChangeHistory,
    private readonly paper: PaperService,
    private readonly impactWork: ImpactWork,
    @InjectDataSource() private readonly data: DataSource,
  ) {}

  @Get('board')
  @Answers(BoardAnswer)
  async board(): Promise<{ version: number; at: string; board: Board; leading: LeadingFinding[] }> {
    const leading = await this.results.leading();
    return {
      version: this.results.version,
      at: new Date(this.results.reader.atMs).toISOString(),
      board: this.results.board(),
      leading,
    };
  }

  /** One crossing: who and what it is between, and what it comes to. */
  @Get('crossings/:id')
  @Answers(CrossingAnswer)
  one(@Param('id') id: string): object {
    const facts = this.factsOf(id);
    return {
      id,
      version: this.results.version,
      at: new Date(facts.atMs).toISOString(),
      between: betweenOf(facts),
      view: viewOf(facts),
      why: whyOf(facts),
    };
  }

  /** The part of the estate it rests on, with which the page works out every try itself; null where too many share its line. */
  @Get('crossings/:id/slice')
  @Answers(SliceAnswer)
  slice(@Param('id') id: string): { version: number; slice: Slice | null } {
    const { ref } = this.factsOf(id);
    return { version: this.results.version, slice: sliceOf(this.results.reader, ref) };
  }

  /** The crossing as it would be after a change, where the page has not all that takes. */
  @Post('crossings/:id/try')
  @Answers(TryAnswer)
  @Takes(MB)
  @HttpCode(200)
  @Needs('reader')
  try(@Param('id') id: string, @Body({ schema: TryRequest }) { change }: TryRequest): { version: number; view: CrossingView | null } {
    const facts = this.factsOf(id);
    this.paper.assertGood(change);
    return { version: this.results.version, view: viewAfter(facts, change) };
  }

  private factsOf(id: string) {
    const ref = this.results.ref(id);
    const facts = ref && this.results.reader.read(ref);
    if (!facts) throw notFound('crossing', id);
    return facts;
  }

  @Get('crossings/:id/history')
  @Answers(HistoryAnswer)
  async history(@Param('id') id: string): Promise<object[]> {
    if (!this.results.ref(id)) throw notFound('crossing', id);
    const rows = await this.data.query(
      'SELECT at, verdict, delay_ms, frame_rate, cause FROM verdict_history WHERE crossing = $1 ORDER BY version DESC, moment DESC LIMIT 200',
      [id],
    );
    return (rows as { at: Date; verdict: string; delay_ms: number; frame_rate: number; cause: string }[]).reverse().map((row) => ({
      at: row.at.toISOString(),
      verdict: row.verdict,
      delayMs: row.delay_ms,
      frameRate: row.frame_rate,
      cause: row.cause,
    }));
  }

  /** What a change would do to the whole estate; nothing is applied. Where that takes long, the job that works it out is answered. */
  @Post('impact')
  @Answers(ImpactAnswer.or(JobStarted))
  @AtOnce('impact', 2, 4)
  @Takes(MB)
  @HttpCode(200)
  @Needs('reader')
  impact(@Body({ schema: ImpactRequest }) { change }: ImpactRequest, @Req() request: SignedRequest): Promise<ImpactAt | JobStarted> {
    return this.impactWork.of(change, request.user.name);
  }

  @Post('changes')
  @Answers(Applied, 201)
  @Takes(MB)
  apply(@Body({ schema: ChangeRequest }) body: ChangeRequest, @Req() request: SignedRequest): Promise<Applied> {
    const { change, summary, seen } = body;
    if (change.hypotheses.length)
      throw new ProblemError(422, 'Waits for work outside', 'Part of this change waits for work outside. Apply it once that is done.');
    return this.changes.apply(() => this.paper.freshWrites(change), request.user.name, summary, {
      seen,
      beside: (writes) => beside(change, writes),
    });
  }

  @Get('changes')
  @Answers(AuditEntry.array())
  latest(): Promise<object[]> {
    return this.past.latest(50);
  }

  @Post('changes/:id/undo')
  @Answers(Applied)
  @HttpCode(200)
  undo(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<Applied> {
    return this.changes.undo(id, request.user.name);
  }
}

/** What the page says a crossing is between, and what is changed from there. */
const betweenOf = ({ person, endpoint, location, resource, subject, portal }: CrossingFacts): CrossingBetween => ({
  person: { id: person.id, name: person.name },
  endpoint: { id: endpoint.id, name: endpoint.name, deviceClass: endpoint.deviceClass },
  location: { id: location.id, name: location.name, ownLines: location.ownLines },
  resource: { id: resource.id, name: resource.name },
  group: subject.groups.at(-1) ?? null,
  visible: portal !== undefined,
});
