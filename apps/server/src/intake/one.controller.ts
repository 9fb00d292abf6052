import { Body, Controller, Get, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  completed,
  DifferencesAnswer,
  FirstStepsAnswer,
  OnePersonAnswer,
  OnePersonRequest,
  Applied,
  TakeOverRequest,
} from '@underpass/contracts';
import { firstSteps, learnedOf, stamped, type ObjectChange } from '@underpass/core';
import type { z } from 'zod';
import { Answers } from '../edge/answers.js';
import { kB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { ResultsService } from '../crossing/results.service.js';
import { CheckLinkService } from '../evidence/checkLink.service.js';
import { inSlices, KeptAnswers } from '../jobs/slices.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { differences, textOf } from './differences.js';
import { onePerson, type OnePerson } from './onePerson.js';

/** Checks of people of whom nothing is known yet, and what field checks found otherwise. */
@ApiTags('intake')
@Controller('intake')
export class OneController {
  private readonly kept = new KeptAnswers<z.infer<typeof DifferencesAnswer>>();

  constructor(
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    private readonly links: CheckLinkService,
    private readonly results: ResultsService,
  ) {}

  /**
   * Makes a field check for somebody of whom nearly nothing is known: what their crossing needs comes to be with what is said, all else
   * is taken to be so and marked. What the check learns fills it.
   */
  @Post('one')
  @Answers(OnePersonAnswer, 201)
  @Needs('engineer')
  async one(
    @Body({ schema: OnePersonRequest }) body: OnePersonRequest,
    @Req() { user }: SignedRequest,
  ): Promise<z.infer<typeof OnePersonAnswer>> {
    const { resource, location } = body;
    if (resource && !this.store.find('resource', resource)) throw notFound('resource', resource);
    if (location && !this.store.find('location', location)) throw notFound('location', location);
    let made: OnePerson | undefined;
    const plan = () => {
      made = onePerson(this.store.model, body);
      return made.writes.map((write): ObjectChange => ({
        ...write,
        after: write.after && completed(write.kind, write.after as Record<string, unknown>),
      }));
    };
    const { changeId } = await this.changes.apply(plan, user.name, `Check of ${body.name || 'somebody'}`);
    if (!made) throw new Error('nothing was made for the check');
    const { person, endpoint } = made;
    const link = await this.links.make({ location: made.location, endpoint, person, hours: body.hours }, user.name);
    // whoever made it opens it next
    await this.results.settled();
    return { link, crossing: `${person}~${endpoint}~${made.resource}`, person, endpoint, location: made.location, changeId };
  }

  /** What the latest field check of an endpoint says otherwise than the estate. */
  @Get('differences')
  @Answers(DifferencesAnswer)
  differences(): Promise<z.infer<typeof DifferencesAnswer>> {
    const { model } = this.store;
    return this.kept.get(model, 'all', () => inSlices(differences(model)));
  }

  /** Takes fields over from the latest field checks, as one change. */
  @Post('differences')
  @Answers(Applied)
  @Needs('engineer')
  @Takes(256 * kB)
  takeOver(
    @Body({ schema: TakeOverRequest }) { fields }: z.infer<typeof TakeOverRequest>,
    @Req() { user }: SignedRequest,
  ): Promise<Applied> {
    const wanted = new Map<string, typeof fields>();
    for (const each of fields) wanted.set(each.endpoint, [...(wanted.get(each.endpoint) ?? []), each]);
    const plan = () =>
      [...wanted].map(([id, asked]): ObjectChange => {
        const { model } = this.store;
        const before = model.endpoints.get(id);
        if (!before) throw notFound('endpoint', id);
        const figures = model.latestCheck(id)?.figures;
        const learned = figures ? learnedOf(before, figures) : [];
        const set = asked.map(({ field: name, now }) => {
          const found = learned.find(({ field }) => field === name);
          if (!found)
            throw new ProblemError(
              409,
              'Changed meanwhile',
              `The field check of ${before.name} does not say its ${name} otherwise any more. Look again.`,
            );
          if (textOf(found.now) !== now)
            throw new ProblemError(
              409,
              'Changed meanwhile',
              `Somebody has the ${name} of ${before.name} otherwise since you saw it: ${textOf(found.now)}. Nothing was taken over: look again.`,
            );
          return [name, found.found] as const;
        });
        return stamped(
          { kind: 'endpoint', id, before, after: completed('endpoint', { ...before, ...Object.fromEntries(set) }) },
          Date.now(),
        );
      });
    return this.changes.apply(
      plan,
      user.name,
      `Taken over from ${wanted.size === 1 ? 'a field check' : `field checks of ${wanted.size} endpoints`}`,
      { source: 'device' },
    );
  }

  /** What is best done first; nothing once there is enough. */
  @Get('first-steps')
  @Answers(FirstStepsAnswer)
  firstSteps(): z.infer<typeof FirstStepsAnswer> {
    return firstSteps(this.store.model);
  }
}
