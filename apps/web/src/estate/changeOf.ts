import type { Change, Field, ObjectKind, Patch } from '@underpass/contracts';
import { partAt } from '@underpass/contracts';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The change that writing an object over another comes to; null where nothing differs. */
export function changeOf(
  kind: ObjectKind,
  fields: readonly Field[],
  before: Record<string, unknown> | null,
  after: Record<string, unknown>,
): Change | null {
  const id = String(after.id);
  if (!before) return { patches: [{ do: 'create', kind, id, object: after as never }], hypotheses: [] };
  const set: NonNullable<Extract<Patch, { do: 'change' }>['set']> = {};
  for (const { name, path } of fields) {
    const [was, now] = [partAt(before, path), partAt(after, path)];
    if (same(was, now)) continue;
    const top = path[0] as string;
    // a part that comes or goes as a whole, such as a line of one's own, is written as a whole
    if (path.length > 1 && (before[top] === undefined || after[top] === undefined)) set[top] = (after[top] ?? null) as never;
    else set[name] = (now ?? null) as never;
  }
  return Object.keys(set).length ? { patches: [{ do: 'change', kind, id, set }], hypotheses: [] } : null;
}
