import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  CarriedAnswer,
  ChangeOnly,
  ComparedCrossings,
  CostsQuery,
  CompareQuery,
  LintAfter,
  LintAnswer,
  NeedlessAnswer,
  SettingPlaces,
  SettingsOf,
  SettingsQuery,
  SuggestAnswer,
  SuggestRequest,
  ValueCosts,
} from '@underpass/contracts';
import {
  compareCrossings,
  computeFigures,
  definitionOf,
  handedOf,
  profileSchema,
  settingsOf,
  valueCosts,
  type CrossingFacts,
  type SettingKey,
} from '@underpass/core';
import { z } from 'zod';
import { ResultsService } from '../crossing/results.service.js';
import { Answers } from '../edge/answers.js';
import { AtOnce, MB, Takes } from '../edge/takes.js';
import { PaperService } from '../estate/paper.service.js';
import { notFound } from '../problems/problem.js';
import { Needs } from '../signin/session.guard.js';
import { SettingsService } from './settings.service.js';

/** So many crossings of one endpoint are looked at. */
const mostTried = 40;
const Anything = z.looseObject({}).meta({ id: 'ProfileSchema' });

@ApiTags('settings')
@Controller('settings')
export class SettingsController {
  constructor(
    private readonly settings: SettingsService,
    private readonly results: ResultsService,
    private readonly paper: PaperService,
  ) {}

  /** What the layers look at for somebody at an endpoint or for a location, and the entries that stand there; at a past instant where one is named. */
  @Get('of')
  @Answers(SettingsOf)
  @AtOnce('settings', 4, 8)
  of(@Query({ schema: SettingsQuery }) whose: z.infer<typeof SettingsQuery>): Promise<SettingsOf> {
    return this.settings.of(whose);
  }

  /** Everywhere a setting stands, and the history of its entries. */
  @Get('places/:key')
  @Answers(SettingPlaces)
  places(@Param('key') key: string): Promise<SettingPlaces> {
    if (!definitionOf(key)) throw notFound('setting', key.slice(0, 80));
    return this.settings.places(key);
  }

  /** What each value of a setting comes to for somebody at an endpoint. */
  @Get('costs')
  @Answers(ValueCosts)
  @AtOnce('settings', 4, 8)
  costs(@Query({ schema: CostsQuery }) { endpoint, person, key }: z.infer<typeof CostsQuery>): ValueCosts {
    if (!definitionOf(key)) throw notFound('setting', key.slice(0, 80));
    const { reader } = this.results;
    const found = reader.model.endpoints.get(endpoint);
    if (!found) throw notFound('endpoint', endpoint);
    // of what somebody opens from there the one on which it makes most of a difference
    let most: ValueCosts & { differs: number } = { crossing: null, resource: null, handed: [], costs: [], differs: -1 };
    for (const ref of reader.model.crossingsOn(found).slice(0, mostTried)) {
      const facts = person === undefined || ref.person === person ? reader.read(ref) : null;
      if (!facts) continue;
      const costs = valueCosts(facts, key as SettingKey);
      const differs = new Set(costs.map(({ value: _, isNow: __, ...rest }) => JSON.stringify(rest))).size;
      if (differs > most.differs)
        most = { crossing: ref.id, resource: facts.resource.name, handed: handedOf(facts, settingsOf(facts)), costs, differs };
    }
    const { differs: _, ...answer } = most;
    return answer;
  }

  /** Checks between settings, on every crossing. */
  @Get('lint')
  @Answers(LintAnswer)
  @AtOnce('lint', 2, 4)
  lint(): Promise<LintAnswer> {
    return this.settings.lint();
  }

  /** Checks that a change would make hit or silent. */
  @Post('lint')
  @Answers(LintAfter)
  @Takes(MB)
  @HttpCode(200)
  @Needs('reader')
  @AtOnce('lint', 2, 4)
  lintAfter(@Body({ schema: ChangeOnly }) { change }: z.infer<typeof ChangeOnly>): Promise<LintAfter> {
    this.paper.assertGood(change);
    return this.settings.lintAfter(change);
  }

  /** What people can and cannot carry in and out. */
  @Get('carried')
  @Answers(CarriedAnswer)
  @AtOnce('carried', 2, 4)
  carried(): Promise<CarriedAnswer> {
    return this.settings.carried();
  }

  /** Entries that may go. */
  @Get('needless')
  @Answers(NeedlessAnswer)
  @AtOnce('needless', 1, 4)
  needless(): Promise<NeedlessAnswer> {
    return this.settings.needless();
  }

  /** The entry that helps most against a finding and harms nobody. */
  @Post('suggest')
  @Answers(SuggestAnswer)
  @HttpCode(200)
  @Needs('reader')
  @AtOnce('suggest', 1, 4)
  suggest(@Body({ schema: SuggestRequest }) { kind }: z.infer<typeof SuggestRequest>): Promise<SuggestAnswer> {
    return this.settings.suggest(kind);
  }

  /** Two crossings, fact by fact: what of the difference between them each explains. */
  @Get('compare')
  @Answers(ComparedCrossings)
  @AtOnce('compare', 2, 4)
  compare(@Query({ schema: CompareQuery }) { a, b }: z.infer<typeof CompareQuery>): ComparedCrossings {
    const [first, second] = [this.factsOf(a), this.factsOf(b)];
    return { a: told(first), b: told(second), differences: compareCrossings(first, second) };
  }

  /** The JSON Schema of a profile. */
  @Get('profile-schema')
  @Answers(Anything)
  schema(): object {
    return profileSchema();
  }

  private factsOf(id: string): CrossingFacts {
    const ref = this.results.ref(id);
    const facts = ref && this.results.reader.read(ref);
    if (!facts) throw notFound('crossing', id);
    return facts;
  }
}

const told = (facts: CrossingFacts) => ({
  id: facts.ref.id,
  text: `${facts.person.name} on ${facts.endpoint.name} at ${facts.location.name} to ${facts.resource.name}`,
  verdict: computeFigures(facts).verdict,
});
