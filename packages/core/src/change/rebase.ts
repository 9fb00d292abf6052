import type { Change, Hypothesis, ObjectKind, Patch } from '@underpass/contracts';
import { same, type EstateModel } from '../estate/index.js';
import { fieldAt } from './fields.js';
import { settingAt } from './made.js';

/** Something that stands otherwise now than when the change was made. */
export interface Conflict {
  kind: ObjectKind;
  id: string;
  /** The field, or null where the whole object is concerned. */
  field: string | null;
  because: 'changed since' | 'gone' | 'there already';
  was: unknown;
  now: unknown;
  wanted: unknown;
}

/** A change as it would be made on a newer estate. */
export interface Rebased {
  /** What is left to do, with what stands there now beside it. */
  change: Change;
  conflicts: Conflict[];
  /** Fields, entries and objects that stand as wanted already. */
  done: number;
}

/**
 * Puts a change on a newer estate: what stands there already is left out, and what somebody changed meanwhile is a conflict, which
 * stays in the change so that it can be made all the same.
 */
export function rebase(model: EstateModel, change: Change): Rebased {
  const conflicts: Conflict[] = [];
  let done = 0;
  const tell = (kind: ObjectKind, id: string, because: Conflict['because'], more: Partial<Conflict> = {}) =>
    conflicts.push({ kind, id, field: null, because, was: undefined, now: undefined, wanted: undefined, ...more });
  const patches = change.patches.flatMap((patch): Patch[] => {
    switch (patch.do) {
      case 'create': {
        const now = model.find(patch.kind, patch.id);
        if (!now) return [patch];
        if (same(now, patch.object)) done++;
        else {
          tell(patch.kind, patch.id, 'there already', { now, wanted: patch.object });
          return [patch];
        }
        return [];
      }
      case 'remove': {
        const now = model.find(patch.kind, patch.id);
        if (!now) {
          done++;
          return [];
        }
        if (patch.was && !same(now, patch.was)) tell(patch.kind, patch.id, 'changed since', { was: patch.was, now });
        return [{ ...patch, was: now }];
      }
      case 'setting': {
        const now = settingAt(model, patch);
        const wanted = patch.value;
        const stands =
          now !== undefined &&
          (Array.isArray(wanted) && Array.isArray(now.value)
            ? wanted.every((entry) => (now.value as string[]).includes(entry))
            : same(now.value, wanted));
        if (stands) {
          done++;
          return [];
        }
        const value = now?.value ?? null;
        if (patch.was !== undefined && !same(patch.was, value))
          tell('setting', now?.id ?? patch.key, 'changed since', { field: 'value', was: patch.was, now: value, wanted });
        return [{ ...patch, was: value }];
      }
      case 'move': {
        for (const group of [patch.leave, patch.join]) if (group !== null && !model.groups.has(group)) tell('group', group, 'gone');
        for (const person of patch.people ?? []) if (!model.people.has(person)) tell('person', person, 'gone');
        return [patch];
      }
      case 'change': {
        const now = model.find(patch.kind, patch.id);
        if (!now) {
          tell(patch.kind, patch.id, 'gone');
          return [patch];
        }
        const left = { ...patch, ...fieldsLeft(now, patch) };
        done += left.done;
        for (const conflict of left.conflicts) tell(patch.kind, patch.id, 'changed since', conflict);
        return left.patch ? [left.patch] : [];
      }
    }
  });
  for (const hypothesis of change.hypotheses) {
    const named = placeOf(hypothesis);
    if (!model.find(named.kind, named.id)) tell(named.kind, named.id, 'gone');
  }
  return { change: { patches, hypotheses: change.hypotheses }, conflicts, done };
}

const placeOf = (hypothesis: Hypothesis): { kind: ObjectKind; id: string } =>
  hypothesis.suppose === 'drawing' ? { kind: 'endpoint', id: hypothesis.endpoint } : hypothesis;

type ChangePatch = Extract<Patch, { do: 'change' }>;

function fieldsLeft(now: object, patch: ChangePatch): { patch: ChangePatch | null; conflicts: Partial<Conflict>[]; done: number } {
  const conflicts: Partial<Conflict>[] = [];
  let done = 0;
  const set: Record<string, unknown> = {};
  const was: Record<string, unknown> = {};
  for (const [field, wanted] of Object.entries(patch.set ?? {})) {
    const value = fieldAt(now, field) ?? null;
    if (same(value, wanted)) {
      done++;
      continue;
    }
    if (patch.was && field in patch.was && !same(patch.was[field], value))
      conflicts.push({ field, was: patch.was[field], now: value, wanted });
    set[field] = wanted;
    was[field] = value;
  }
  const lists = (entries: Record<string, string[]> | undefined, there: boolean) =>
    Object.fromEntries(
      Object.entries(entries ?? {}).flatMap(([field, list]) => {
        const value = fieldAt(now, field);
        const left = list.filter((entry) => (Array.isArray(value) && value.includes(entry)) === there);
        done += list.length - left.length;
        return left.length ? [[field, left]] : [];
      }),
    );
  const [add, drop] = [lists(patch.add, false), lists(patch.drop, true)];
  const some = (record: object) => Object.keys(record).length > 0;
  const { kind, id } = patch;
  return {
    patch:
      some(set) || some(add) || some(drop)
        ? { do: 'change', kind, id, ...(some(set) ? { set, was } : {}), ...(some(add) ? { add } : {}), ...(some(drop) ? { drop } : {}) }
        : null,
    conflicts,
    done,
  };
}
