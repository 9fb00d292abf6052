import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { AccessPersonView, Measurement, PortalReport } from '@underpass/contracts';
import { seenDifference } from '@underpass/core';
import { DataSource, type EntityManager } from 'typeorm';
import { uuidV7 } from '../database/uuid.js';
import { ChangeService } from '../estate/change.service.js';
import { portalName } from '../estate/changeHistory.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { ProblemError } from '../problems/problem.js';
import { named } from './naming.js';
import { Channel } from '../events/channel.service.js';

interface SightingRow {
  at: Date;
  person: string;
  portal: string;
  outcome: string;
  saw: string[];
  opened: string | null;
  steps: Record<string, number>;
}

/** What portals report: who signed in, what they saw, how long the steps took. */
@Injectable()
export class SightingService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly channel: Channel,
    private readonly changes: ChangeService,
  ) {}

  /** Takes a report as it is: a fact about what was seen, and the groups that are in force from this sign-in on. */
  async take(report: PortalReport): Promise<void> {
    const { model } = this.store;
    const person = model.people.get(report.person);
    if (!person || !model.portals.has(report.portal))
      throw new ProblemError(422, 'Not valid', 'The report is about a person or a portal that is not known here.');
    await this.data.query(
      'INSERT INTO sighting (id, at, person, portal, outcome, saw, opened, steps) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)',
      [uuidV7(), report.at, report.person, report.portal, report.outcome, report.saw, report.opened, JSON.stringify(report.steps)],
    );
    await this.channel.tell({ type: 'sighting', id: report.person });
    if (report.outcome === 'list' || report.outcome === 'session') await this.signedIn(report, person.groups);
    if (report.outcome === 'session' && Object.keys(report.steps).length > 0) {
      const measurement: Measurement = {
        id: uuidV7(),
        at: report.at,
        by: named(model, 'portal', report.portal).name,
        method: 'portal report',
        vantage: 'session',
        person: person.id,
        location: person.location,
        partial: false,
        figures: { signon: report.steps },
      };
      await this.changes.keepMeasurements([measurement], `Sign-in of ${person.name} timed`);
    }
  }

  /** Remembers the groups of the sign-in, where it does not stand so already. */
  private async signedIn(report: PortalReport, groups: readonly string[]): Promise<void> {
    const stands = () => this.store.model.signedIn.get(report.person)?.groups.join() === groups.join();
    if (stands()) return;
    await this.changes.apply(
      () => [
        {
          kind: 'signedIn',
          id: report.person,
          before: this.store.model.signedIn.get(report.person) ?? null,
          after: { id: report.person, at: report.at, portal: report.portal, groups: [...groups] },
        },
      ],
      portalName,
      `${named(this.store.model, 'person', report.person).name} signed in`,
    );
  }

  async of(person: string, expected: readonly string[]): Promise<AccessPersonView['sightings']> {
    const { model } = this.store;
    const rows: SightingRow[] = await this.data.query('SELECT * FROM sighting WHERE person = $1 ORDER BY at DESC, id DESC LIMIT 10', [
      person,
    ]);
    const names = (ids: readonly string[]) => ids.map((id) => named(model, 'resource', id).name);
    return rows.map((row) => {
      const { missing, extra } =
        row.outcome === 'list' || row.outcome === 'session' ? seenDifference(expected, row.saw) : { missing: [], extra: [] };
      return {
        at: row.at.toISOString(),
        portalName: named(model, 'portal', row.portal).name,
        outcome: row.outcome,
        saw: names(row.saw),
        // a portal shows its own publications only, so one that is found elsewhere is not missing here
        missing: names(
          missing.filter((id) => model.access.ofPerson(person).seen.find((each) => each.resource === id)?.portal === row.portal),
        ),
        extra: names(extra),
        opened: row.opened === null ? null : named(model, 'resource', row.opened).name,
        seconds: Object.values(row.steps).reduce((sum, seconds) => sum + seconds, 0),
      };
    });
  }

  /** The latest list each of these people was shown since a moment, over all portals together. */
  async lists(
    people: readonly string[],
    since: Date,
    run: Pick<EntityManager, 'query'> = this.data,
  ): Promise<Map<string, { at: Date; saw: string[]; portals: string[] }>> {
    const rows: SightingRow[] = await run.query(
      `SELECT DISTINCT ON (person, portal) * FROM sighting
       WHERE person = ANY($1) AND at >= $2 AND outcome = 'list' ORDER BY person, portal, at DESC, id DESC`,
      [people, since],
    );
    const lists = new Map<string, { at: Date; saw: string[]; portals: string[] }>();
    for (const row of rows) {
      const known = lists.get(row.person);
      lists.set(row.person, {
        at: known && known.at > row.at ? known.at : row.at,
        saw: [...new Set([...(known?.saw ?? []), ...row.saw])],
        portals: [...(known?.portals ?? []), row.portal],
      });
    }
    return lists;
  }
}
