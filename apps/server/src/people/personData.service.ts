import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DataSource } from 'typeorm';
import { uuidV7 } from '../database/uuid.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { assertValid } from '../estate/validate.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { forgetPerson } from './forget.js';
import { leavingOf } from '../estate/leaving.js';
import { Channel } from '../events/channel.service.js';

/** Everything that is kept about one person: shown to them on request, and taken out. */
@Injectable()
export class PersonDataService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly channel: Channel,
    private readonly changes: ChangeService,
  ) {}

  /** All of it, by where it is kept. */
  async shown(id: string): Promise<Record<string, unknown>> {
    const { estate } = this.store.model;
    const person = this.store.find('person', id);
    if (!person) throw notFound('person', id);
    const rows = (sql: string) => this.data.query(sql, [id]) as Promise<object[]>;
    return {
      person,
      endpoints: estate.endpoint.filter((endpoint) => endpoint.person === id || endpoint.users.includes(id)),
      sessions: estate.session.filter((session) => session.person === id),
      lastSignIn: estate.signedIn.find((each) => each.id === id) ?? null,
      settings: estate.setting.filter(({ layer, target }) => layer === 'person' && target === id),
      saidBySources: await rows(`SELECT source, fields FROM said WHERE kind = 'person' AND object_id = $1 ORDER BY source`),
      sentByDirectories: await rows(
        `SELECT f.name AS directory, r.data FROM feed_link l JOIN feed f ON f.id = l.feed JOIN scim_resource r ON r.feed = l.feed AND r.id = l.key
         WHERE l.kind = 'person' AND l.object_id = $1`,
      ),
      measurements: await rows('SELECT * FROM measurement WHERE person = $1 ORDER BY at'),
      signInsAtPortals: await rows('SELECT at, portal, outcome, saw, opened, steps FROM sighting WHERE person = $1 ORDER BY at'),
      fieldChecks: await rows(
        'SELECT created_at, created_by, location, endpoint, state FROM check_link WHERE person = $1 ORDER BY created_at',
      ),
      links: await rows(`SELECT * FROM entry_link WHERE target_kind = 'person' AND target = $1 ORDER BY created_at`),
      acceptance: await rows(
        `SELECT started_at, t AS tester FROM acceptance_run, jsonb_array_elements(testers) t WHERE t->>'person' = $1 ORDER BY started_at`,
      ),
      verdicts: await rows(`SELECT * FROM verdict_history WHERE split_part(crossing, '~', 1) = $1 ORDER BY at`),
      changes: await rows(
        `SELECT c.at, c.by_name, c.summary, e.kind, e.before, e.after FROM audit_entry e JOIN change_set c ON c.id = e.change_id
         WHERE e.kind IN ('person', 'signedIn') AND e.object_id = $1 ORDER BY c.version`,
      ),
    };
  }

  /** Takes a person out of the estate and of everything that was kept about them; this cannot be taken back. */
  async erase(id: string, by: string): Promise<void> {
    await this.changes.locked(async (manager) => {
      const { estate, people } = this.store.model;
      const person = people.get(id);
      if (!person) throw notFound('person', id);
      const guests = estate.person.filter((each) => each.guest?.owner === id);
      if (guests.length)
        throw new ProblemError(
          409,
          'In use',
          `${person.name} answers for ${guests.length === 1 ? guests[0]?.name : `${guests.length} guests`}. Name somebody else first.`,
        );
      const writes = leavingOf(estate, new Set([id]));
      assertValid(
        writes,
        (kind, key) => this.store.find(kind, key),
        (kind) => this.store.all(kind),
      );
      const history = (await manager.query(
        `SELECT DISTINCT coalesce(before->>'name', after->>'name') AS name FROM audit_entry WHERE kind = 'person' AND object_id = $1`,
        [id],
      )) as { name: string | null }[];
      await this.changes.write(manager, writes, { changeId: uuidV7(), by, summary: 'Somebody was erased' });
      await forgetPerson(manager, id, [person.name, ...history.flatMap(({ name }) => (name ? [name] : []))]);
      await this.channel.tell({ type: 'reread', cause: 'somebody was erased' }, manager);
    });
    await this.store.reread('somebody was erased');
  }
}
