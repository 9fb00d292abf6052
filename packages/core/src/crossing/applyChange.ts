import type { Estate, ObjectKind, Setting } from '@underpass/contracts';
import { objectKindsInOrder } from './kinds.js';
import { joined, settingIdFor, withField, type Change } from './change.js';

export interface ObjectChange {
  kind: ObjectKind;
  id: string;
  before: object | null;
  after: object | null;
}

/** The objects an applicable change writes, against the estate as it is. A hypothesis writes nothing. */
export function objectChanges(
  change: Change,
  find: (kind: ObjectKind, id: string) => object | undefined,
  entries: readonly Setting[],
): ObjectChange[] {
  const written = new Map<string, ObjectChange>();
  for (const edit of change) {
    if (edit.type === 'hypothesis') continue;
    if (edit.type === 'setting') {
      const known = entries.find(
        (entry) => entry.key === edit.key && entry.layer === edit.layer && entry.target === edit.target && !entry.condition,
      );
      const id = known?.id ?? settingIdFor(edit);
      const after: Setting = {
        id,
        key: edit.key,
        layer: edit.layer,
        target: edit.target,
        value: joined(edit, known),
        locked: known?.locked ?? false,
      };
      written.set(`setting/${id}`, { kind: 'setting', id, before: known ?? null, after });
      continue;
    }
    const key = `${edit.kind}/${edit.id}`;
    const earlier = written.get(key);
    const before = earlier ? earlier.before : (find(edit.kind, edit.id) ?? null);
    const base = earlier?.after ?? before;
    if (base) written.set(key, { kind: edit.kind, id: edit.id, before, after: withField(base, edit.field, edit.value) });
  }
  return [...written.values()];
}

/** An estate with object changes made; the given one stays as it is. */
export function withObjectChanges(estate: Estate, changes: readonly ObjectChange[]): Estate {
  const next = { ...estate } as Record<ObjectKind, { id: string }[]>;
  for (const kind of objectKindsInOrder) {
    const ofKind = changes.filter((change) => change.kind === kind);
    if (ofKind.length === 0) continue;
    const ids = new Map(ofKind.map((change) => [change.id, change.after]));
    const kept = next[kind].flatMap((object) => (ids.has(object.id) ? [] : [object]));
    next[kind] = [...kept, ...ofKind.flatMap((change) => (change.after ? [change.after as { id: string }] : []))];
  }
  return next as unknown as Estate;
}
