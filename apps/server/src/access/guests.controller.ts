import { Body, Controller, Get, HttpCode, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ImpactRequest, WithdrawRequest, ConsequenceView, GuestRow, JobStarted, Applied } from '@underpass/contracts';
import { guestEndMs, guestState, readinessOf, type GuestState } from '@underpass/core';
import { ResultsService } from '../crossing/results.service.js';
import { AtOnce, kB, MB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { ConsequenceService } from './consequence.service.js';
import { named } from './naming.js';
import { Answers } from '../edge/answers.js';

const order: Record<GuestState, number> = { ended: 0, 'ending soon': 1, 'not recorded': 2, 'not accepted': 3, current: 4 };

@ApiTags('access')
@Controller('access')
export class GuestsController {
  constructor(
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly consequences: ConsequenceService,
    private readonly changes: ChangeService,
  ) {}

  /** What a change would come to for what people see; nothing is applied. */
  @Post('consequence')
  @Answers(ConsequenceView.or(JobStarted))
  @Takes(MB)
  @AtOnce('impact', 2, 4)
  @HttpCode(200)
  @Needs('reader')
  consequence(
    @Body({ schema: ImpactRequest }) { change }: ImpactRequest,
    @Req() request: SignedRequest,
  ): Promise<ConsequenceView | JobStarted> {
    return this.consequences.of(change, request.user.name);
  }

  /** Guests, those past their end first, with what they can still reach and what keeps them out. */
  @Get('guests')
  @Answers(GuestRow.array())
  guests(): GuestRow[] {
    const { model } = this.store;
    const nowMs = Date.now();
    return model.estate.person
      .filter(({ kind }) => kind === 'guest')
      .map((person): GuestRow => {
        const { guest } = person;
        const unmet = new Set<string>();
        for (const ref of model.crossingsOf(person.id)) {
          const facts = this.results.reader.read(ref);
          if (!facts) continue;
          for (const set of model.gates)
            for (const { condition, state } of readinessOf(set, facts)?.conditions ?? [])
              if (state === 'not met') unmet.add(condition.name);
        }
        return {
          id: person.id,
          name: person.name,
          state: guestState(person, nowMs),
          owner: guest ? named(model, 'person', guest.owner) : null,
          organisation: guest?.organisation ?? null,
          country: guest?.country ?? null,
          endsOn: guest?.endsOn ?? null,
          daysLeft: guest ? Math.ceil((guestEndMs(guest.endsOn) - nowMs) / 86_400_000) : null,
          invitation: guest?.invitation ?? null,
          reaches: model.access.ofPerson(person.id).seen.map(({ resource }) => named(model, 'resource', resource).name),
          unmet: [...unmet],
          crossing: model.crossingsOf(person.id)[0]?.id ?? null,
        };
      })
      .sort((a, b) => order[a.state] - order[b.state] || (a.endsOn ?? '').localeCompare(b.endsOn ?? '') || a.name.localeCompare(b.name));
  }

  /** Takes everything from guests in one change, which can be taken back. */
  @Post('guests/withdraw')
  @Answers(Applied)
  @Takes(128 * kB)
  @HttpCode(200)
  withdraw(@Body({ schema: WithdrawRequest }) { people }: WithdrawRequest, @Req() request: SignedRequest): Promise<Applied> {
    const plan = () =>
      people.map((id) => {
        const person = this.store.model.people.get(id);
        if (!person) throw notFound('person', id);
        if (person.kind !== 'guest') throw new ProblemError(422, 'Not valid', `${person.name} is not a guest.`);
        return { kind: 'person' as const, id, before: person, after: { ...person, groups: [] } };
      });
    const names = people.length === 1 ? named(this.store.model, 'person', people[0] as string).name : `${people.length} guests`;
    return this.changes.apply(plan, request.user.name, `Withdrew all access of ${names}`);
  }
}
