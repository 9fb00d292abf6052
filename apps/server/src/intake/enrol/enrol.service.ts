import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import {
  completed,
  DeviceReport,
  keyOfName,
  usualOrder,
  withStandIns,
  type Applied,
  type Endpoint,
  type ReportTaken,
  type TakeDevices,
  type WaitingDevice,
} from '@underpass/contracts';
import {
  arrived,
  likelyEndpoint,
  likelyPlace,
  orderFor,
  reportedFields,
  stamped,
  type ObjectChange,
  type ReportedFields,
} from '@underpass/core';
import { DataSource, type EntityManager } from 'typeorm';
import type { z } from 'zod';
import { uuidV7 } from '../../database/uuid.js';
import { ChangeService } from '../../estate/change.service.js';
import { ownName } from '../../estate/changeHistory.service.js';
import { EstateStore } from '../../estate/estate.store.js';
import { orderFrom, saidOf, writeSays, type Says } from '../../estate/said.js';
import { notFound, ProblemError } from '../../problems/problem.js';
import { hashToken } from '../../secrets/tokens.js';
import { textOfValue } from '../settle.js';

const source = 'device';
/** Devices that may wait to be taken in; beyond that somebody has to look first. */
const mostWaiting = 5000;
const listed = 1000;

export interface Batch {
  id: string;
  name: string;
  location: string | null;
  most: number;
  used: number;
}
interface DeviceRow {
  id: string;
  batch: string;
  device_key: string;
  name: string;
  report: unknown;
  address: string;
  first_at: Date;
  at: Date;
  state: 'waiting' | 'taken' | 'dropped';
  endpoint: string | null;
}

/** Devices that tell what they are: known ones are brought up to date, others wait until somebody takes them in. */
@Injectable()
export class EnrolService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
  ) {}

  /** The batch of a key that is still good. What is not is told in one way, whatever it was. */
  async batchOf(key: string): Promise<Batch> {
    const [row] = (await this.data.query(
      `SELECT id, name, location, most, used FROM enrol_batch WHERE token_hash = $1 AND revoked_at IS NULL AND expires_at > now()`,
      [hashToken(key)],
    )) as Batch[];
    if (!row) throw new ProblemError(404, 'Not found', 'This key is not good any more. Ask whoever gave it for another one.');
    return row;
  }

  /** Takes a report. A device that has reported before is told by its key; one that has not by its name, as long as nobody else is it. */
  async take(batch: Batch, report: DeviceReport, address: string): Promise<ReportTaken> {
    const done = await this.changes.locked(async (manager): Promise<ReportTaken> => {
      const [known] = (await manager.query('SELECT * FROM enrol_device WHERE device_key = $1', [report.key])) as DeviceRow[];
      const there = known?.endpoint && this.store.find('endpoint', known.endpoint) ? known.endpoint : null;
      const endpoint = there ?? (await this.unclaimed(manager, report));
      await this.remember(manager, batch, report, address, known ?? null, endpoint);
      if (endpoint === null)
        return {
          state: 'waiting',
          text: `Thank you. ${report.name || 'This device'} is not known yet; it waits until somebody takes it in.`,
        };
      const changed = await this.update(manager, endpoint, report);
      return {
        state: changed ? 'updated' : 'unchanged',
        text: changed
          ? `Thank you. What is known of ${report.name} was brought up to date.`
          : `Thank you. Nothing of ${report.name} is new.`,
      };
    });
    if (done.state === 'updated') await this.shown(`Report of ${report.name}`);
    return done;
  }

  private async shown(cause: string): Promise<void> {
    await this.store.refresh(cause).catch(() => this.store.catchUp(cause));
  }

  /** The endpoint of a device's name, where no other device has said that it is that one. */
  private async unclaimed(manager: EntityManager, report: DeviceReport): Promise<string | null> {
    const id = likelyEndpoint(this.store.all('endpoint') as Iterable<Endpoint>, report.name);
    if (id === null) return null;
    const [other] = (await manager.query('SELECT id FROM enrol_device WHERE endpoint = $1 AND device_key <> $2', [
      id,
      report.key,
    ])) as object[];
    return other ? null : id;
  }

  private async remember(
    manager: EntityManager,
    batch: Batch,
    report: DeviceReport,
    address: string,
    known: DeviceRow | null,
    endpoint: string | null,
  ): Promise<void> {
    const state = endpoint === null ? (known?.state === 'dropped' ? 'dropped' : 'waiting') : 'taken';
    if (known) {
      await manager.query(
        'UPDATE enrol_device SET report = $2, name = $3, address = $4, at = now(), state = $5, endpoint = $6, batch = $7 WHERE id = $1',
        [...[known.id, JSON.stringify(report), report.name, address], ...[state, endpoint, batch.id]],
      );
      return;
    }
    // of two at the same moment the second finds the key used up
    const [counted] = (await manager.query('UPDATE enrol_batch SET used = used + 1 WHERE id = $1 AND used < most RETURNING used', [
      batch.id,
    ])) as [object[], number];
    if (counted.length === 0)
      throw new ProblemError(
        429,
        'Used up',
        `The key of “${batch.name}” was for ${batch.most} devices, and as many have reported. Ask for another one.`,
      );
    const [{ n }] = (await manager.query(`SELECT count(*)::int AS n FROM enrol_device WHERE state = 'waiting'`)) as [{ n: number }];
    if (n >= mostWaiting)
      throw new ProblemError(429, 'Too many', 'Too many devices wait to be taken in. Somebody has to look at them first.');
    await manager.query(
      `INSERT INTO enrol_device (id, batch, device_key, name, report, address, first_at, at, state, endpoint) VALUES ($1, $2, $3, $4, $5, $6, now(), now(), $7, $8)`,
      [uuidV7(), batch.id, report.key, report.name, JSON.stringify(report), address, state, endpoint],
    );
  }

  /** What a report says of an endpoint, laid over it as the order of sources has it. */
  private async over(manager: EntityManager, id: string, fields: ReportedFields, at: string): Promise<{ write: ObjectChange; says: Says }> {
    const before = this.store.find('endpoint', id) as Endpoint;
    const query = <T>(sql: string, values?: unknown[]) => manager.query(sql, values) as Promise<T[]>;
    const said = (await saidOf(query, 'endpoint', [id])).get(id) ?? new Map();
    const order = await orderFrom(query);
    const assumed = before.assumed?.filter((field) => !(field in fields));
    const told = { ...before, ...fields, ...(assumed?.length ? { assumed } : { assumed: undefined }) };
    const came = arrived<Endpoint>({
      ...{ before, after: told, fields: Object.keys(fields), source, at, said },
      order: (field) => orderFor(order, 'endpoint', field, usualOrder),
    });
    const after = completed('endpoint', { ...came.object, reportedAt: at });
    return {
      write: stamped({ kind: 'endpoint', id, before, after }, Date.parse(at)),
      says: { kind: 'endpoint', id, source, fields: came.says },
    };
  }

  /** @returns whether anything of it is another than before, beside the time of the report */
  private async update(manager: EntityManager, id: string, report: DeviceReport): Promise<boolean> {
    const at = new Date().toISOString();
    const { write, says } = await this.over(manager, id, reportedFields(report, Date.now()), at);
    const own = ({ reportedAt: _, screensAt: __, decodersAt: ___, ...rest }: Endpoint) =>
      JSON.stringify(Object.entries(rest).sort(([a], [b]) => (a < b ? -1 : 1)));
    const changed = own(write.before as Endpoint) !== own(write.after as Endpoint);
    if (!changed && (write.before as Endpoint).reportedAt !== undefined) {
      if (Object.keys(says.fields).length) await writeSays(manager, [says]);
      return false;
    }
    await this.changes.write(manager, [write], { changeId: uuidV7(), by: ownName, summary: `Report of ${report.name}`, says: [says] });
    return true;
  }

  /** Devices that wait, the newest first, each with the place that is likeliest. */
  async waiting(): Promise<WaitingDevice[]> {
    const rows = (await this.data.query(
      `SELECT d.*, b.name AS "batchName", b.location AS "batchLocation" FROM enrol_device d JOIN enrol_batch b ON b.id = d.batch
       WHERE d.state = 'waiting' ORDER BY d.at DESC LIMIT ${listed}`,
    )) as (DeviceRow & { batchName: string; batchLocation: string | null })[];
    const places = this.store.model.estate.location;
    return rows.map(({ id, name, report, address, first_at: firstAt, at, batchName, batchLocation }) => {
      const read = DeviceReport.parse(report);
      const found = likelyPlace(places, [...read.addresses, address]);
      const location = batchLocation !== null && this.store.find('location', batchLocation) ? batchLocation : (found?.id ?? null);
      const by =
        location !== null && location === batchLocation
          ? 'the batch is of this place'
          : found
            ? `its address ${found.address} is in ${found.range}`
            : 'no address range of a place holds its address';
      const fields = Object.entries(reportedFields(read, at.getTime())).map(([field, value]) => ({
        field,
        value: textOfValue('endpoint', field, value, () => undefined),
      }));
      return {
        id,
        name: name || 'without a name',
        batch: batchName,
        at: at.toISOString(),
        firstAt: firstAt.toISOString(),
        address,
        location,
        why: by,
        fields,
      };
    });
  }

  /** Takes devices in as one change: new endpoints, or ones that are there. What they told stands in them as reported. */
  async takeIn({ devices }: z.infer<typeof TakeDevices>, by: string): Promise<Applied> {
    const at = new Date().toISOString();
    const applied = await this.changes.locked(async (manager): Promise<{ changeId: string }> => {
      const rows = (await manager.query(`SELECT * FROM enrol_device WHERE id = ANY($1) AND state = 'waiting'`, [
        devices.map(({ id }) => id),
      ])) as DeviceRow[];
      const writes: ObjectChange[] = [];
      const says: Says[] = [];
      const taken = new Set<string>();
      for (const { id, name, location, endpoint } of devices) {
        const row = rows.find((each) => each.id === id);
        if (!row) throw new ProblemError(409, 'Changed meanwhile', `${name} does not wait any more. Look again.`);
        if (!this.store.find('location', location)) throw notFound('location', location);
        if (endpoint !== undefined && !this.store.find('endpoint', endpoint)) throw notFound('endpoint', endpoint);
        const fields = reportedFields(DeviceReport.parse(row.report), row.at.getTime());
        const of = endpoint ?? this.free(name, taken);
        if (taken.has(of)) throw new ProblemError(422, 'Not valid', `Two of these devices are to be the endpoint ${of}.`);
        taken.add(of);
        if (endpoint !== undefined) {
          const laid = await this.over(manager, endpoint, fields, at);
          writes.push(laid.write);
          says.push(laid.says);
        } else {
          const after = completed(
            'endpoint',
            withStandIns('endpoint', { id: of, name, location, ...fields, reportedAt: row.at.toISOString() }),
          );
          writes.push({ kind: 'endpoint', id: of, before: null, after });
          says.push({
            kind: 'endpoint',
            id: of,
            source,
            fields: Object.fromEntries(Object.entries(fields).map(([field, value]) => [field, { value, at }])),
          });
        }
        await manager.query(`UPDATE enrol_device SET state = 'taken', endpoint = $2 WHERE id = $1`, [id, of]);
      }
      const changeId = uuidV7();
      const summary = `${devices.length === 1 ? devices[0]?.name : `${devices.length} devices`} that reported taken in`;
      await this.changes.write(manager, writes, { changeId, by, summary, says });
      return { changeId };
    });
    await this.shown('Devices taken in');
    return { ...applied, version: this.store.version };
  }

  private free(name: string, taken: ReadonlySet<string>): string {
    const key = keyOfName(name) || 'device';
    let id = key;
    for (let i = 2; taken.has(id) || this.store.find('endpoint', id); i++) id = `${key.slice(0, 58)}-${i}`;
    return id;
  }

  /** They do not wait any more, and are not shown again when they report. */
  async drop(ids: readonly string[]): Promise<void> {
    await this.data.query(`UPDATE enrol_device SET state = 'dropped' WHERE id = ANY($1) AND state = 'waiting'`, [ids]);
  }
}
