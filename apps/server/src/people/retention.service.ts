import { Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { DoorRules, Estate } from '@underpass/contracts';
import { guestEndMs } from '@underpass/core';
import { DataSource } from 'typeorm';
import { uuidV7 } from '../database/uuid.js';
import { ChangeService } from '../estate/change.service.js';
import { ownName } from '../estate/changeHistory.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { Patience } from '../signin/patience.service.js';
import { RulesService } from '../signin/rules.service.js';
import { forgetPerson } from './forget.js';
import { leavingOf } from '../estate/leaving.js';
import { Channel } from '../events/channel.service.js';

const everyMs = 6 * 3_600_000;
const dayMs = 86_400_000;

/** What long work came to is kept this long, days. */
const keepJobsDays = 30;
/** Devices that reported and that nobody took in are kept this long, days. */
const keepWaitingDays = 90;

/** Lets go of what was kept long enough: by the rules an administrator chose, once for all servers. */
@Injectable()
export class RetentionService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly logger = new Logger('retention');
  private timer: NodeJS.Timeout | null = null;

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly channel: Channel,
    private readonly changes: ChangeService,
    private readonly rules: RulesService,
    private readonly patience: Patience,
  ) {}

  onApplicationBootstrap(): void {
    const again = (): void => {
      this.run(Date.now()).catch((error: Error) => this.logger.warn(`nothing was let go of this time: ${error.message}`));
    };
    this.timer = setInterval(again, everyMs).unref();
  }
  onApplicationShutdown(): void {
    if (this.timer) clearInterval(this.timer);
  }

  async run(nowMs: number): Promise<void> {
    const rules = await this.rules.get();
    await this.patience.forgetOld();
    const days = (count: number) => new Date(nowMs - count * dayMs);
    await this.data.query('DELETE FROM sighting WHERE at < $1', [days(rules.keepReportsDays)]);
    await this.data.query('DELETE FROM verdict_history WHERE at < $1', [days(rules.keepReportsDays)]);
    await this.data.query('DELETE FROM check_link WHERE expires_at < $1', [days(rules.keepReportsDays)]);
    await this.data.query('DELETE FROM job WHERE created_at < $1', [days(keepJobsDays)]);
    await this.data.query("DELETE FROM taken_list WHERE at < now() - interval '1 day'");
    await this.data.query("DELETE FROM enrol_device WHERE state <> 'taken' AND at < $1", [days(keepWaitingDays)]);
    await this.data.query(
      'DELETE FROM enrol_batch b WHERE expires_at < $1 AND NOT EXISTS (SELECT FROM enrol_device d WHERE d.batch = b.id)',
      [days(keepWaitingDays)],
    );
    await this.data.query('DELETE FROM security_event WHERE at < $1', [days(rules.keepLogDays)]);
    const dropped = await this.oldYears(new Date(nowMs).getUTCFullYear() - rules.keepMeasurementsYears);
    const left = await this.whoLeft(rules, nowMs);
    if (dropped || left) {
      await this.channel.tell({ type: 'reread', cause: 'old data let go of' });
      await this.store.reread('old data let go of');
    }
  }

  /** Years of measurements up to the last that is not kept any more: taken off, then dropped, so that nobody waits long. */
  private async oldYears(last: number): Promise<boolean> {
    const parts = (await this.data.query(
      `SELECT c.relname AS name FROM pg_inherits i JOIN pg_class c ON c.oid = i.inhrelid
       WHERE i.inhparent = 'measurement'::regclass AND c.relname ~ '^measurement_\\d{4}$'`,
    )) as { name: string }[];
    const old = parts.map(({ name }) => name).filter((name) => Number(name.slice(-4)) <= last);
    for (const name of old)
      await this.changes.locked(async (manager) => {
        await manager.query(`ALTER TABLE measurement DETACH PARTITION ${name}`);
        await manager.query(`DROP TABLE ${name}`);
      });
    return old.length > 0;
  }

  /** Guests past their end, and the traces of people who were removed, after the time that is stated. */
  private async whoLeft(rules: DoorRules, nowMs: number): Promise<boolean> {
    const before = nowMs - rules.keepLeftDays * dayMs;
    const over = (estate: Estate) =>
      estate.person.filter(
        ({ id, guest }) => guest && guestEndMs(guest.endsOn) < before && !estate.person.some((each) => each.guest?.owner === id),
      );
    const gone = (await this.data.query(
      `SELECT e.object_id AS id, array_agg(DISTINCT e.before->>'name') AS names FROM audit_entry e JOIN change_set c ON c.id = e.change_id
       JOIN estate_object o ON o.kind = 'person' AND o.id = e.object_id AND o.deleted
       WHERE e.kind = 'person' AND e.after IS NULL AND e.before IS NOT NULL AND c.at < $1 GROUP BY 1`,
      [new Date(before)],
    )) as { id: string; names: (string | null)[] }[];
    if (over(this.store.model.estate).length === 0 && gone.length === 0) return false;
    await this.changes.locked(async (manager) => {
      const { estate } = this.store.model;
      const guests = over(estate);
      if (guests.length) {
        const writes = leavingOf(estate, new Set(guests.map(({ id }) => id)));
        const summary = `${guests.length} guests past their end let go of`;
        await this.changes.write(manager, writes, { changeId: uuidV7(), by: ownName, summary });
      }
      for (const { id, name } of guests) await forgetPerson(manager, id, [name]);
      for (const { id, names } of gone)
        if (!estate.person.some((person) => person.id === id))
          await forgetPerson(
            manager,
            id,
            names.filter((name) => name !== null),
          );
    });
    return true;
  }
}
