import type { Measurement } from '@underpass/contracts';
import type { ObjectChange } from '@underpass/core';
import type { EntityManager } from 'typeorm';
import { uuidV7 } from '../database/uuid.js';

/** Rows of one statement; keeps parameters and memory bounded on large imports. */
const batch = 1000;
/** Writes objects as they stand after a change, and in the audit trail what they were before. */
export async function writeObjects(
  manager: EntityManager,
  changes: readonly ObjectChange[],
  { changeId, version, onProgress }: { changeId: string; version: string; onProgress: (done: number) => void },
): Promise<void> {
  for (let i = 0; i < changes.length; i += batch) {
    const part = changes.slice(i, i + batch);
    await manager.query(
      `INSERT INTO estate_object (kind, id, data, version, deleted)
       SELECT k, i, d::jsonb, $4, x FROM unnest($1::text[], $2::text[], $3::text[], $5::bool[]) AS t(k, i, d, x)
       ON CONFLICT (kind, id) DO UPDATE SET data = excluded.data, version = excluded.version, deleted = excluded.deleted`,
      [
        part.map((c) => c.kind),
        part.map((c) => c.id),
        part.map((c) => JSON.stringify(c.after ?? c.before)),
        version,
        part.map((c) => c.after === null),
      ],
    );
    await manager.query(
      `INSERT INTO audit_entry (id, change_id, kind, object_id, before, after)
       SELECT u, $2, k, i, b::jsonb, a::jsonb FROM unnest($1::uuid[], $3::text[], $4::text[], $5::text[], $6::text[]) AS t(u, k, i, b, a)`,
      [
        part.map(() => uuidV7()),
        changeId,
        part.map((c) => c.kind),
        part.map((c) => c.id),
        part.map((c) => (c.before ? JSON.stringify(c.before) : null)),
        part.map((c) => (c.after ? JSON.stringify(c.after) : null)),
      ],
    );
    onProgress(i + part.length);
  }
}

/** Writes measurements; the partition of a year is made when its first row comes. */
export async function writeMeasurements(manager: EntityManager, measurements: readonly Measurement[], version: string): Promise<void> {
  for (const year of new Set(measurements.map((m) => Number(m.at.slice(0, 4)))))
    // the name and bounds are a number taken from a validated time, nothing a person can shape
    await manager.query(
      `CREATE TABLE IF NOT EXISTS measurement_${year} PARTITION OF measurement FOR VALUES FROM ('${year}-01-01') TO ('${year + 1}-01-01')`,
    );
  for (const m of measurements)
    await manager.query(
      `INSERT INTO measurement (id, at, by_name, method, vantage, person, endpoint, location, target, medium, partial, note, figures, version)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) ON CONFLICT DO NOTHING`,
      [
        m.id,
        m.at,
        m.by,
        m.method,
        m.vantage,
        m.person ?? null,
        m.endpoint ?? null,
        m.location,
        m.target ?? null,
        m.medium ?? null,
        m.partial,
        m.note ?? null,
        JSON.stringify(m.figures),
        version,
      ],
    );
}
