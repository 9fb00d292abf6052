import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  Key,
  RequirementText,
  TryRequest,
  writeDocument,
  CrossingReadiness,
  type FileProblem,
  type RequirementSet,
  RequirementSetView,
  TriedSets,
  KeptSets,
  Applied,
  ImpactRequest,
  SetDropQuery,
} from '@underpass/contracts';
import { shippedSets } from '@underpass/contracts/shipped';
import { ReadinessTally, type EstateReadiness, isEmpty, readinessOf, type FactsReader } from '@underpass/core';
import type { z } from 'zod';
import { eachInSlices, KeptAnswers } from '../jobs/slices.js';
import { ResultsService } from '../crossing/results.service.js';
import { Reading } from '../edge/reading.service.js';
import { AtOnce, kB, MB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { Answers } from '../edge/answers.js';
import { PaperService } from '../estate/paper.service.js';

const mostPeople = 500;

/** Requirement sets: what has to hold before a feature works, for one crossing or for the estate. */
@ApiTags('access')
@Controller()
export class RequirementsController {
  private readonly kept = new KeptAnswers<EstateReadiness>();

  constructor(
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly changes: ChangeService,
    private readonly paper: PaperService,
    private readonly reading: Reading,
  ) {}

  @Get('access/requirements')
  @Answers(RequirementSetView.array())
  sets(): Promise<RequirementSetView[]> {
    return Promise.all(this.store.model.requirements.map((set) => this.view(set)));
  }

  /** The sets as they would come out after a change; nothing is applied. */
  @Post('access/requirements/on-paper')
  @Answers(RequirementSetView.array())
  @Takes(MB)
  @HttpCode(200)
  @Needs('reader')
  @AtOnce('requirements on paper', 1, 2)
  onPaper(@Body({ schema: ImpactRequest }) { change }: ImpactRequest): Promise<RequirementSetView[]> {
    this.paper.assertGood(change);
    const after = this.results.reader.after(change);
    return Promise.all(after.model.requirements.map((set) => this.viewOn(after, set)));
  }

  /** Reads a set as it is being written, and evaluates it; nothing is kept. */
  @Post('access/requirements/try')
  @Answers(TriedSets)
  @Takes(256 * kB)
  @HttpCode(200)
  @Needs('reader')
  async try(
    @Body({ schema: RequirementText }) { text }: RequirementText,
  ): Promise<{ problems: FileProblem[]; sets: RequirementSetView[] }> {
    const { problems, sets } = await this.reading.run('requirements', { text });
    return { problems, sets: problems.length ? [] : await Promise.all(sets.map((set) => this.view(set, text))) };
  }

  @Put('access/requirements')
  @Answers(KeptSets)
  @Takes(256 * kB)
  async save(
    @Body({ schema: RequirementText }) { text, seen }: RequirementText,
    @Req() request: SignedRequest,
  ): Promise<{ ids: string[] }> {
    const { problems, sets } = await this.reading.run('requirements', { text });
    if (problems.length || sets.length === 0)
      throw new ProblemError(
        422,
        'Not valid',
        problems[0] ? `Line ${problems[0].line}: ${problems[0].field} ${problems[0].problem}` : 'The text holds no set.',
      );
    const plan = () =>
      sets.map((set) => ({
        kind: 'requirement' as const,
        id: set.id,
        before: this.store.find('requirement', set.id) ?? null,
        after: set,
      }));
    await this.changes.apply(plan, request.user.name, `Requirement set ${sets.map(({ name }) => name).join(', ')}`, { seen });
    return { ids: sets.map(({ id }) => id) };
  }

  /** Takes one's own set away; of a shipped one the shipped form stands again. */
  @Delete('access/requirements/:id')
  @Answers(Applied)
  remove(
    @Param('id', { schema: Key }) id: string,
    @Query({ schema: SetDropQuery }) { seen }: z.infer<typeof SetDropQuery>,
    @Req() request: SignedRequest,
  ): Promise<Applied> {
    const plan = () => {
      const before = this.store.find('requirement', id);
      if (!before) throw notFound('requirement set of your own', id);
      return [{ kind: 'requirement' as const, id, before, after: null }];
    };
    const shipped = shippedSets().some((set) => set.id === id);
    return this.changes.apply(
      plan,
      request.user.name,
      shipped ? `Requirement set ${id} as shipped again` : `Requirement set ${id} removed`,
      { seen },
    );
  }

  /** The sets that are for one crossing, as it would be after a change. */
  @Post('crossings/:id/readiness')
  @Answers(CrossingReadiness)
  @HttpCode(200)
  @Needs('reader')
  crossing(@Param('id') id: string, @Body({ schema: TryRequest }) { change }: TryRequest): CrossingReadiness {
    const ref = this.results.ref(id);
    const now = ref && this.results.reader.read(ref);
    if (!now) throw notFound('crossing', id);
    const facts = isEmpty(change) ? now : this.results.reader.after(change).read(now.ref);
    if (!facts) throw notFound('crossing', id);
    return {
      sets: this.store.model.requirements.flatMap((set) => {
        const result = readinessOf(set, facts);
        return result
          ? [
              {
                id: set.id,
                name: set.name,
                readiness: result.readiness,
                givenUp: set.givenUp,
                conditions: result.conditions.map(({ condition, state, alternative }) => ({
                  id: condition.id,
                  name: condition.name,
                  bay: condition.bay,
                  state,
                  remedy: condition.remedy,
                  who: condition.who,
                  costs: alternative?.costs ?? null,
                })),
              },
            ]
          : [];
      }),
    };
  }

  private view(set: RequirementSet, text?: string): Promise<RequirementSetView> {
    return this.viewOn(this.results.reader, set, text);
  }

  private async viewOn(reader: FactsReader, set: RequirementSet, text?: string): Promise<RequirementSetView> {
    const tallied = async () => {
      const tally = new ReadinessTally(set);
      await eachInSlices(reader.model.crossings, (ref) => {
        const facts = reader.read(ref);
        if (facts) tally.add(ref, facts);
      });
      return tally.result();
    };
    // what is only on paper is looked at once
    const result = reader === this.results.reader ? await this.kept.get(reader, JSON.stringify(set), tallied) : await tallied();
    const conditions = new Map(set.conditions.map((condition) => [condition.id, condition]));
    const shipped = shippedSets().some(({ id }) => id === set.id);
    return {
      id: set.id,
      name: set.name,
      purpose: set.purpose,
      breaks: set.breaks ?? null,
      givenUp: set.givenUp,
      version: Number(this.store.versionOf('requirement', set.id) ?? 0),
      origin: shipped ? (this.store.find('requirement', set.id) ? 'shipped, changed here' : 'shipped') : 'own',
      text: text ?? writeDocument([set]),
      ready: result.ready,
      fallback: result.fallback,
      notReady: result.notReady,
      notKnown: result.notKnown,
      blockers: result.blockers.map((blocker) => {
        const condition = conditions.get(blocker.condition);
        return { ...blocker, who: condition?.who ?? '', remedy: condition?.remedy ?? '', effortH: condition?.effortH ?? 0 };
      }),
      remedies: result.remedies.slice(0, 50).map(({ works, people, effortH }) => ({
        works: works.map((work) => {
          const condition = conditions.get(work.condition);
          const kind = condition?.at;
          const object =
            kind === undefined || kind === 'organisation'
              ? undefined
              : (this.store.find(kind, work.object) as { name?: string } | undefined);
          return {
            name: condition?.remedy ?? work.condition,
            object: object?.name ?? work.object,
            who: condition?.who ?? '',
            effortH: work.effortH,
          };
        }),
        people: people.length,
        effortH,
      })),
      people: result.people
        .filter(({ readiness }) => readiness !== 'ready')
        .slice(0, mostPeople)
        .map(({ person, readiness, crossing, unmet }) => ({
          id: person,
          name: reader.model.people.get(person)?.name ?? person,
          readiness,
          crossing,
          unmet: unmet.map((id) => conditions.get(id)?.name ?? id),
        })),
    };
  }
}
