import { isDeepStrictEqual } from 'node:util';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../problems/problem.js';

/** Key of the lock under which one at a time writes what is kept whole beside the estate. */
const keeping = 4603;

/** What somebody made theirs from. */
interface Seen<Now> {
  /** As they saw it; where it is left out nothing is asked. */
  was: Now | undefined;
  /** Says that it is otherwise by now, in a sentence without its end. */
  changed: (now: Now) => string;
  /** What is said in place of a value that people call otherwise. */
  words?: Readonly<Record<string, string>>;
  /** Where its fields stand in what was sent: `settings.` */
  within?: string;
}

/**
 * Writes something that is kept as a whole, such as rules or the settings of a directory: read, held against what somebody made theirs
 * from, and written while nobody else writes one. What reads and writes asks the manager, not the pool: those who wait hold its
 * connections.
 * @throws ProblemError 409 where it is otherwise by now, with the fields that are
 */
export function overSeen<Now, T>(
  data: DataSource,
  read: (manager: EntityManager) => Promise<Now>,
  { was, changed, words = {}, within = '' }: Seen<Now>,
  write: (manager: EntityManager) => Promise<T>,
): Promise<T> {
  return data.transaction(async (manager) => {
    await manager.query('SELECT pg_advisory_xact_lock($1)', [keeping]);
    const now = await read(manager);
    const [seen, stands] = [plain(was), plain(now)];
    if (was !== undefined && !isDeepStrictEqual(seen, stands))
      throw new ProblemError(
        409,
        'Changed meanwhile',
        `${changed(now)}. Nothing was overwritten: look at what stands now, then keep yours again.`,
        differing(seen, stands).map(([field, value]) => ({
          field: `${within}${field}`,
          problem: `was changed meanwhile: ${shown(value, words)} now`,
        })),
      );
    return write(manager);
  });
}

/** As it is sent: without fields that are left open. */
const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null));

/** Fields that are otherwise, with what they are now. */
function differing(was: unknown, now: unknown): [string, unknown][] {
  if (!isFields(was) || !isFields(now)) return [];
  return [...new Set([...Object.keys(was), ...Object.keys(now)])]
    .filter((field) => !isDeepStrictEqual(was[field], now[field]))
    .map((field) => [field, now[field]]);
}
const isFields = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value);

function shown(value: unknown, words: Readonly<Record<string, string>>): string {
  if (isFields(value)) return 'another';
  const text = [value ?? []]
    .flat()
    .map((each) => words[String(each)] ?? String(each))
    .join(', ');
  return text === '' ? 'nothing' : text.length > 80 ? `${text.slice(0, 80)}…` : text;
}
