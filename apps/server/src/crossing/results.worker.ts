import { objectKinds, type ObjectKind } from '@underpass/contracts';
import { FactsReader, modelOf, summariseCrossing, type Summary } from '@underpass/core';
import pg from 'pg';
import { estateOf, measurementOf, measurementsSince, objectsSince, type Query } from '../estate/load.js';

export interface EvaluationTask {
  databaseUrl: string;
  atMs: number;
  part: number;
  parts: number;
  /** Locations to evaluate, or all. */
  locations: string[] | 'all';
}

/** Evaluates a part of the estate in a worker thread, which reads the database itself so that nothing large crosses threads. */
export default async function evaluatePart({ databaseUrl, atMs, part, parts, locations }: EvaluationTask): Promise<[string, Summary][]> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    const query: Query = async <T>(sql: string, parameters?: unknown[]) => (await client.query(sql, parameters)).rows as T[];
    const [rows, measured] = [await objectsSince(query, '0'), await measurementsSince(query, '0')];
    const objects = new Map<ObjectKind, Map<string, object>>(objectKinds.map((kind) => [kind, new Map()]));
    for (const row of rows) if (!row.deleted) objects.get(row.kind)?.set(row.id, row.data);
    const reader = new FactsReader(modelOf(estateOf(objects), measured.map(measurementOf)), atMs);
    const wanted = locations === 'all' ? null : new Set(locations);
    const size = Math.ceil(reader.model.crossings.length / parts);
    return reader.model.crossings.slice(part * size, (part + 1) * size).flatMap((ref): [string, Summary][] => {
      if (wanted && !wanted.has(ref.location)) return [];
      const facts = reader.read(ref);
      return facts ? [[ref.id, summariseCrossing(facts)]] : [];
    });
  } finally {
    await client.end();
  }
}
