import { Body, Controller, Get, HttpCode, Post, Put, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  RecordingRequest,
  RulesRequest,
  SavingsQuery,
  type Measurement,
  SavingsView,
  type SignonRule,
  Made,
  SignonRulesView,
  Applied,
} from '@underpass/contracts';
import { SavingsTally, shippedRules } from '@underpass/core';
import { uuidV7 } from '../database/uuid.js';
import { kB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { eachInSlices, KeptAnswers } from '../jobs/slices.js';
import { ResultsService } from '../crossing/results.service.js';
import { notFound } from '../problems/problem.js';
import type { SignedRequest } from '../signin/session.guard.js';
import { Answers } from '../edge/answers.js';

/** Recorded sign-ins, the rules that read them, and what shortcuts would save. */
@ApiTags('signon')
@Controller('signon')
export class SignonController {
  private readonly kept = new KeptAnswers<SavingsView>();

  constructor(
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly changes: ChangeService,
  ) {}

  /** Person-hours a year that each shortcut would save, for whom the query names. */
  @Get('savings')
  @Answers(SavingsView)
  savings(@Query({ schema: SavingsQuery }) query: SavingsQuery): Promise<SavingsView> {
    const { reader } = this.results;
    const { model } = reader;
    for (const [kind, id] of [
      ['group', query.group],
      ['location', query.location],
      ['endpoint', query.endpoint],
      ['resource', query.resource],
      ['person', query.person],
    ] as const)
      if (id !== undefined && !this.store.find(kind, id)) throw notFound(kind, id);
    const members = query.group === undefined ? null : model.access.peopleIn(query.group);
    const crossings = model.crossings.filter(
      (ref) =>
        (!members || members.has(ref.person)) &&
        (query.location === undefined || ref.location === query.location) &&
        (query.endpoint === undefined || ref.endpoint === query.endpoint) &&
        (query.resource === undefined || ref.resource === query.resource) &&
        (query.person === undefined || ref.person === query.person),
    );
    return this.kept.get(reader, JSON.stringify(query), async () => {
      const tally = new SavingsTally(model.organisation);
      await eachInSlices(crossings, (ref) => tally.add(ref, () => reader.read(ref)));
      return tally.result();
    });
  }

  /** Keeps the steps of a recorded sign-in. The recording itself never comes here. */
  @Post('recordings')
  @Answers(Made, 201)
  async keep(@Body({ schema: RecordingRequest }) body: RecordingRequest, @Req() request: SignedRequest): Promise<{ id: string }> {
    const location = this.store.model.locations.get(body.location);
    if (!location) throw notFound('location', body.location);
    if (body.endpoint && !this.store.find('endpoint', body.endpoint)) throw notFound('endpoint', body.endpoint);
    if (body.person && !this.store.find('person', body.person)) throw notFound('person', body.person);
    const measurement: Measurement = {
      id: uuidV7(),
      at: new Date(body.startedAt).toISOString(),
      by: request.user.name,
      method: 'recorded sign-in',
      vantage: 'desk',
      ...(body.endpoint ? { endpoint: body.endpoint } : {}),
      ...(body.person ? { person: body.person } : {}),
      location: body.location,
      partial: false,
      ...(body.note ? { note: body.note } : {}),
      figures: { signon: body.steps },
    };
    await this.changes.keepMeasurements([measurement], `Sign-in recorded at ${location.name}`);
    return { id: measurement.id };
  }

  @Get('rules')
  @Answers(SignonRulesView)
  rules(): { rules: readonly SignonRule[]; shipped: boolean; version: number } {
    const own = this.store.model.organisation.signonRules;
    return { rules: own ?? shippedRules, shipped: own === undefined, version: this.store.version };
  }

  /** Replaces the rules; null stands for the shipped ones. */
  @Put('rules')
  @Answers(Applied)
  @HttpCode(200)
  @Takes(256 * kB)
  replace(@Body({ schema: RulesRequest }) { rules, seen }: RulesRequest, @Req() request: SignedRequest): Promise<Applied> {
    const plan = () => {
      const before = this.store.find('organisation', 'organisation') ?? null;
      const { signonRules: _old, ...rest } = this.store.model.organisation;
      return [{ kind: 'organisation' as const, id: 'organisation', before, after: { ...rest, ...(rules ? { signonRules: rules } : {}) } }];
    };
    return this.changes.apply(
      plan,
      request.user.name,
      rules ? `${rules.length} rules that read recorded sign-ins` : 'Shipped rules that read recorded sign-ins',
      { seen },
    );
  }
}
