import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { AcceptancePlanView, AcceptanceView, SeenRequest, TesterRow } from '@underpass/contracts';
import { acceptancePlan, guestState, seenDifference } from '@underpass/core';
import { DataSource, type EntityManager } from 'typeorm';
import { AcceptanceRun, type KeptTester } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { named } from './naming.js';
import { SightingService } from './sighting.service.js';

const firstFew = 6;
const mostRuns = 50;

/** Acceptance: who has to look so that every publication is looked at, what they should see, and what they saw. */
@Injectable()
export class AcceptanceService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly sightings: SightingService,
  ) {}

  private plan(model = this.store.model) {
    const nowMs = Date.now();
    return acceptancePlan(model.access, (person) => guestState(person, nowMs) !== 'ended');
  }

  /** The plan of an estate: as it is now, or as it would be. */
  planView(model = this.store.model): AcceptancePlanView {
    const plan = this.plan(model);
    return {
      sets: plan.sets.map(({ people, resources }) => ({
        people: people.length,
        first: people.slice(0, firstFew).map((id) => named(model, 'person', id)),
        resources: resources.map((id) => named(model, 'resource', id)),
      })),
      testers: plan.testers.map((id) => named(model, 'person', id)),
      optimal: plan.optimal,
      publications: model.all('publication').size - plan.unseen.length,
      unseen: plan.unseen.map(({ publication, because }) => ({ ...named(model, 'publication', publication), because })),
    };
  }

  /** The plan as the estate is now, and a run: the one that is named, or the latest. */
  async view(id?: string): Promise<AcceptanceView> {
    const runs = await this.data.getRepository(AcceptanceRun).find({ order: { startedAt: 'DESC' }, take: mostRuns });
    const run = (id === undefined ? runs[0] : runs.find((each) => each.id === id)) ?? null;
    if (id !== undefined && !run) throw notFound('acceptance run', id);
    const rows = new Map(await Promise.all(runs.map(async (each) => [each.id, await this.rows(each)] as const)));
    return {
      ...this.planView(),
      run: run && {
        id: run.id,
        startedAt: run.startedAt.toISOString(),
        startedBy: run.startedBy,
        testers: rows.get(run.id) ?? [],
        signedOffAt: run.signedOffAt?.toISOString() ?? null,
        signedOffBy: run.signedOffBy,
      },
      runs: runs.map((each) => {
        const looked = rows.get(each.id) ?? [];
        return {
          id: each.id,
          startedAt: each.startedAt.toISOString(),
          startedBy: each.startedBy,
          people: looked.length,
          looked: looked.filter(({ saw }) => saw !== null).length,
          differ: looked.filter(({ missing, extra }) => missing.length + extra.length > 0).length,
          signedOffAt: each.signedOffAt?.toISOString() ?? null,
          signedOffBy: each.signedOffBy,
        };
      }),
    };
  }

  /** Starts a run: what each tester should see is kept as it is now. */
  async start(by: string): Promise<void> {
    const { access } = this.store.model;
    const { testers, optimal } = this.plan();
    if (testers.length === 0) throw new ProblemError(422, 'Nothing to test', 'Nobody sees a publication yet.');
    await this.data.getRepository(AcceptanceRun).insert({
      id: uuidV7(),
      startedAt: new Date(),
      startedBy: by,
      optimal,
      testers: testers.map((person) => ({ person, expected: access.ofPerson(person).seen.map(({ resource }) => resource) })),
      signedOffAt: null,
      signedOffBy: null,
    });
  }

  async enter(id: string, person: string, { saw, note, seenAt }: SeenRequest, by: string): Promise<void> {
    for (const resource of saw) if (!this.store.model.resources.has(resource)) throw notFound('resource', resource);
    await this.data.transaction(async (manager) => {
      const run = await manager.findOne(AcceptanceRun, { where: { id }, lock: { mode: 'pessimistic_write' } });
      const tester = open(run, id).testers.find((each) => each.person === person);
      if (!run || !tester) throw notFound('tester', person);
      if (seenAt !== undefined && seenAt !== (tester.at ?? null))
        throw new ProblemError(
          409,
          'Changed meanwhile',
          `What they saw was written down meanwhile, by ${tester.by}. Nothing was overwritten: look at it, then keep yours again.`,
        );
      Object.assign(tester, { saw: [...saw], at: new Date().toISOString(), by, note });
      await manager.save(run);
    });
  }

  /** Signs a run off: what was seen is kept with it and does not change any more. */
  async signOff(id: string, by: string): Promise<void> {
    await this.data.transaction(async (manager) => {
      // whoever says at this moment what they saw is waited for, or it would be written over
      const run = open(await manager.findOne(AcceptanceRun, { where: { id }, lock: { mode: 'pessimistic_write' } }), id);
      const rows = await this.rows(run, manager);
      const waiting = rows.filter(({ saw }) => saw === null).length;
      if (waiting) throw new ProblemError(409, 'Not looked at yet', `${waiting} of ${rows.length} people have not looked yet.`);
      run.testers = rows.map((row) => ({
        person: row.person,
        expected: row.expected.map((each) => each.id),
        saw: row.saw ?? [],
        at: row.at ?? undefined,
        by: row.by ?? undefined,
        note: row.note ?? undefined,
        reported: row.source === 'reported',
      }));
      await manager.save(Object.assign(run, { signedOffAt: new Date(), signedOffBy: by }));
    });
  }

  /** What was entered counts before what a portal reported. */
  private async rows(run: AcceptanceRun, manager?: EntityManager): Promise<TesterRow[]> {
    const { model } = this.store;
    const lists = run.signedOffAt
      ? new Map<string, never>()
      : await this.sightings.lists(
          run.testers.map(({ person }) => person),
          run.startedAt,
          manager,
        );
    return run.testers.map((tester): TesterRow => {
      const reported = tester.saw === undefined ? lists.get(tester.person) : undefined;
      const saw = tester.saw ?? reported?.saw ?? null;
      // a portal shows its own publications only: what it could not show is not missing yet
      const { missing, extra } = saw === null ? { missing: [], extra: [] } : seenDifference(tester.expected, saw);
      return {
        person: tester.person,
        name: named(model, 'person', tester.person).name,
        expected: tester.expected.map((id) => named(model, 'resource', id)),
        saw,
        source: saw === null ? null : reported || tester.reported ? 'reported' : 'entered',
        at: tester.at ?? reported?.at.toISOString() ?? null,
        by: tester.by ?? (reported ? reported.portals.map((id) => named(model, 'portal', id).name).join(', ') : null),
        note: tester.note ?? null,
        missing: missing.map((id) => named(model, 'resource', id)),
        extra: extra.map((id) => named(model, 'resource', id)),
      };
    });
  }
}

function open(run: AcceptanceRun | null, id: string): AcceptanceRun & { testers: KeptTester[] } {
  if (!run) throw notFound('acceptance run', id);
  if (run.signedOffAt) throw new ProblemError(409, 'Signed off', 'This run is signed off. Start a new one.');
  return run;
}
