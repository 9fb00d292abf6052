import type { Change, ObjectKind, Patch, Setting, SettingValue } from '@underpass/contracts';
import { same, type EstateModel, type ObjectChange, type Supposition } from '../estate/index.js';
import { settingPlace } from '../settings/index.js';
import { fieldAt, withField } from './fields.js';

/** A step that names an object which is not there, or creates one that is. */
export interface Misplaced {
  /** Place of the step in its list. */
  step: number;
  hypothesis: boolean;
  kind: ObjectKind;
  id: string;
  because: 'not there' | 'there already';
}

/** What a change comes to on an estate: the objects it writes, what it supposes, and steps that have no place there. */
export interface Made {
  writes: ObjectChange[];
  /** Every object that would be another: what is written, and what a hypothesis has otherwise, which nothing writes. */
  all: ObjectChange[];
  supposed: Supposition[];
  misplaced: Misplaced[];
}

/** Fields of an endpoint that are measured too: typed anew they replace what was measured before. */
const measuredToo = { screens: 'screensAt', decoders: 'decodersAt' } as const;

/** Id of the entry for a setting that is made at a place. */
export const settingIdFor = (edit: { key: string; layer: string; target: string }): string =>
  `${edit.key}-${edit.layer}-${edit.target}`.replace(/[^A-Za-z0-9._-]/g, '_').slice(0, 64);

/** The entry that a change of a setting replaces: the one at the same place without a condition. */
export const settingAt = (
  model: Pick<EstateModel, 'settings'>,
  { key, layer, target }: { key: string; layer: Setting['layer']; target: string },
): Setting | undefined => model.settings.get(settingPlace(layer, target))?.find((entry) => entry.key === key && !entry.condition);

/** A list is added to the list that stands there; other values replace it. */
const joined = (value: SettingValue, known: Setting | undefined): SettingValue =>
  Array.isArray(value) && Array.isArray(known?.value) ? [...new Set([...known.value, ...value])] : value;

const asList = (value: unknown): string[] => (Array.isArray(value) ? (value as string[]) : []);

type Changing = Extract<Patch, { do: 'change' }>;

/** The object after a step that changes fields. */
function changed(object: object, { set, add, drop }: Changing): object {
  let next = object;
  for (const [path, value] of Object.entries(set ?? {})) next = withField(next, path, value);
  for (const [path, gone] of Object.entries(drop ?? {})) {
    const list = asList(fieldAt(next, path));
    if (list.some((entry) => gone.includes(entry)))
      next = withField(
        next,
        path,
        list.filter((entry) => !gone.includes(entry)),
      );
  }
  for (const [path, more] of Object.entries(add ?? {})) {
    const list = asList(fieldAt(next, path));
    const fresh = [...new Set(more)].filter((entry) => !list.includes(entry));
    if (fresh.length) next = withField(next, path, [...list, ...fresh]);
  }
  return next;
}

/** Whether a step takes fields away, or writes into an object that is not there: then something has to be filled in. */
const leavesGaps = (now: object, { set }: Changing): boolean =>
  Object.entries(set ?? {}).some(([path, value]) => {
    const parent = path.slice(0, Math.max(0, path.lastIndexOf('.')));
    return value === null || (parent !== '' && fieldAt(now, parent) === undefined);
  });

/** A table of what is written so far, so that later steps see earlier ones. */
class Writing {
  readonly written = new Map<string, ObjectChange>();
  constructor(private readonly model: EstateModel) {}

  now(kind: ObjectKind, id: string): object | undefined {
    const known = this.written.get(`${kind}/${id}`);
    return known ? (known.after ?? undefined) : this.model.find(kind, id);
  }
  put(kind: ObjectKind, id: string, after: object | null): void {
    const key = `${kind}/${id}`;
    const known = this.written.get(key);
    this.written.set(key, { kind, id, before: known ? known.before : (this.model.find(kind, id) ?? null), after });
  }
}

/**
 * What a change comes to on an estate. The one place where a change becomes objects: trying, impact, drafts and applying all go
 * through it, so that what was shown on paper is what is written.
 * @param atMs when it is made, ms since 1970: what is typed then replaces what was measured before
 */
export function made(model: EstateModel, change: Change, atMs: number): Made {
  const misplaced: Misplaced[] = [];
  const writing = new Writing(model);
  for (const [step, patch] of change.patches.entries())
    misplaced.push(...make(model, writing, patch).map((each) => ({ ...each, step, hypothesis: false })));
  const writes = [...writing.written.values()].filter(({ before, after }) => before !== after).map((write) => stamped(write, atMs));
  const supposed: Supposition[] = [];
  const imagining = new Writing(model);
  for (const { kind, id, after } of writes) imagining.put(kind, id, after);
  for (const [step, hypothesis] of change.hypotheses.entries()) {
    if (hypothesis.suppose !== 'object') {
      supposed.push(hypothesis);
      continue;
    }
    const { kind, id, set } = hypothesis;
    misplaced.push(...make(model, imagining, { do: 'change', kind, id, set }).map((each) => ({ ...each, step, hypothesis: true })));
  }
  const all = [...imagining.written.values()].filter(({ before, after }) => before !== after);
  return { writes, all, supposed, misplaced };
}

type Fault = Omit<Misplaced, 'step' | 'hypothesis'>;

function make(model: EstateModel, writing: Writing, patch: Patch): Fault[] {
  switch (patch.do) {
    case 'create': {
      const { kind, id, object } = patch;
      if (writing.now(kind, id)) return [{ kind, id, because: 'there already' }];
      writing.put(kind, id, model.complete(kind, { ...(object as object), id }));
      return [];
    }
    case 'remove': {
      const { kind, id } = patch;
      if (!writing.now(kind, id)) return [{ kind, id, because: 'not there' }];
      writing.put(kind, id, null);
      return [];
    }
    case 'change': {
      const { kind, id } = patch;
      const now = writing.now(kind, id);
      if (!now) return [{ kind, id, because: 'not there' }];
      const next = changed(now, patch);
      writing.put(kind, id, leavesGaps(now, patch) ? model.complete(kind, next) : next);
      return [];
    }
    case 'setting': {
      const { key, layer, target, value } = patch;
      const id = placeFor(model, writing, patch);
      const now = writing.now('setting', id) as Setting | undefined;
      writing.put('setting', id, { id, key, layer, target, value: joined(value, now), locked: now?.locked ?? false } satisfies Setting);
      return [];
    }
    case 'move': {
      const { leave, join } = patch;
      const people = patch.people ?? (leave === null ? [] : (model.members.get(leave) ?? []));
      const groups = [leave, join].flatMap((id): Fault[] =>
        id !== null && !writing.now('group', id) ? [{ kind: 'group', id, because: 'not there' }] : [],
      );
      if (groups.length) return groups;
      return people.flatMap((id): Fault[] => {
        const person = writing.now('person', id) as { groups: string[] } | undefined;
        if (!person) return [{ kind: 'person', id, because: 'not there' }];
        const rest = person.groups.filter((group) => group !== leave);
        const next = join !== null && !rest.includes(join) ? [...rest, join] : rest;
        if (next.length !== person.groups.length || next.some((group, i) => group !== person.groups[i]))
          writing.put('person', id, { ...person, groups: next });
        return [];
      });
    }
  }
}

/** The id of the entry that stands at a place, or a free one where none does. */
function placeFor(model: EstateModel, writing: Writing, edit: Extract<Patch, { do: 'setting' }>): string {
  const fits = (id: string) => {
    const entry = writing.now('setting', id) as Setting | undefined;
    return !entry || (entry.key === edit.key && entry.layer === edit.layer && entry.target === edit.target && !entry.condition);
  };
  const known = settingAt(model, edit);
  if (known && fits(known.id)) return known.id;
  const own = settingIdFor(edit);
  // two long places may shorten to the same id
  for (let n = 1, id = own; ; n++, id = `${own.slice(0, 60)}-${n}`) if (fits(id)) return id;
}

/**
 * What is typed of an endpoint counts from now on, whatever was measured before; unless the change itself says since when.
 * @param atMs when it is typed, ms since 1970
 */
export function stamped(write: ObjectChange, atMs: number): ObjectChange {
  const { kind, before, after } = write;
  if (!before || !after) return write;
  let next = withoutSaid(before, after);
  if (kind !== 'endpoint') return next === after ? write : { ...write, after: next };
  for (const [field, stamp] of Object.entries(measuredToo))
    if (!same(fieldAt(before, field), fieldAt(after, field)) && same(fieldAt(before, stamp), fieldAt(after, stamp)))
      next = withField(next, stamp, stampOf(atMs));
  return { ...write, after: next };
}
/** What somebody says now is not assumed any more. */
function withoutSaid(before: object, after: object): object {
  const { assumed } = after as { assumed?: readonly string[] };
  if (!assumed?.length || !same(assumed, fieldAt(before, 'assumed'))) return after;
  const left = assumed.filter((field) => same(fieldAt(before, field), fieldAt(after, field)));
  return left.length === assumed.length ? after : withField(after, 'assumed', left.length ? left : null);
}
const stampOf = (atMs: number): string => new Date(atMs).toISOString().replace(/\.\d+Z$/, 'Z');
