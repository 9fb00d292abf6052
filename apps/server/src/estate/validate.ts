import { objectSchemas, plainMessage, references, referencesOf, type ObjectKind, type Setting } from '@underpass/contracts';
import { faultOfValue, faultsOfEstate, type EstateFault, type ObjectChange } from '@underpass/core';
import { ProblemError } from '../problems/problem.js';

type Find = (kind: ObjectKind, id: string) => object | undefined;

/** What is wrong with an object as a person typed it, field by field. */
export function faultsOf(kind: ObjectKind, value: unknown, find: Find): { field: string; problem: string }[] {
  const parsed = objectSchemas[kind].safeParse(value);
  if (!parsed.success)
    return parsed.error.issues.map((issue) => ({
      field: issue.path.map(String).join('.'),
      problem: plainMessage(issue.message),
    }));
  const faults = referencesOf(kind, parsed.data)
    .filter(({ to, id }) => !find(to, id))
    .map(({ field, to, id }) => ({ field, problem: `There is no ${to} “${id}”.` }));
  if (kind === 'setting') faults.push(...settingFaults(parsed.data as Setting, find));
  return faults;
}

function settingFaults(setting: Setting, find: Find): { field: string; problem: string }[] {
  const fault = faultOfValue(setting.key, setting.value);
  if (fault) return [{ field: fault.startsWith('no setting') ? 'key' : 'value', problem: fault }];
  const kinds = { location: 'location', group: 'group', person: 'person', endpoint: 'endpoint' } as const;
  const kind = kinds[setting.layer as keyof typeof kinds];
  if (kind && !find(kind, setting.target)) return [{ field: 'target', problem: `There is no ${kind} “${setting.target}”.` }];
  if (setting.layer === 'organisation' && setting.target !== '*') return [{ field: 'target', problem: 'The organisation’s target is *.' }];
  return [];
}

/** Kinds that machines report: they never keep anything from being taken away, and go with what they tell of. */
export const reportedKinds = ['session', 'signedIn'] as const satisfies readonly ObjectKind[];

/** Objects that name this one, so that it cannot be taken away. */
function namedBy(kind: ObjectKind, id: string, all: (kind: ObjectKind) => Iterable<object>): string | null {
  for (const from of Object.keys(references) as ObjectKind[]) {
    if ((reportedKinds as readonly ObjectKind[]).includes(from)) continue;
    for (const object of all(from))
      if (referencesOf(from, object).some((each) => each.to === kind && each.id === id)) return `${from} ${(object as { id: string }).id}`;
  }
  return null;
}

/** Kinds of which no object shows by itself whether it is right. */
const wholeKinds = ['group', 'publication', 'resource', 'pool', 'person', 'requirement'] as const;

/** What is wrong in the whole once the changes are made: loops, mixed publications. Told at the object that was changed. */
function wholeFaults(changes: readonly ObjectChange[], all: (kind: ObjectKind) => Iterable<object>): EstateFault[] {
  if (!changes.some(({ kind }) => (wholeKinds as readonly ObjectKind[]).includes(kind))) return [];
  const after = Object.fromEntries(
    wholeKinds.map((kind) => {
      const objects = new Map([...all(kind)].map((object) => [(object as { id: string }).id, object]));
      for (const change of changes) {
        if (change.kind !== kind) continue;
        if (change.after) objects.set(change.id, objectSchemas[kind].parse(change.after));
        else objects.delete(change.id);
      }
      return [kind, [...objects.values()]];
    }),
  );
  return faultsOfEstate(after as never);
}

/** Throws the problem of the first change that is not valid. Changes of one set may refer to each other. */
export function assertValid(changes: readonly ObjectChange[], find: Find, all: (kind: ObjectKind) => Iterable<object>): void {
  const planned = new Map(changes.map((change) => [`${change.kind}/${change.id}`, change.after]));
  const findPlanned: Find = (kind, id) => (planned.has(`${kind}/${id}`) ? (planned.get(`${kind}/${id}`) ?? undefined) : find(kind, id));
  for (const { kind, id, after } of changes) {
    if (after) {
      const faults = faultsOf(kind, after, findPlanned);
      if (faults.length)
        throw new ProblemError(
          422,
          'Not valid',
          `${kind} ${id}: ${faults.map(({ field, problem }) => `${field} ${problem}`).join('; ')}`,
          faults,
        );
    } else {
      const by = namedBy(kind, id, all);
      if (by && !(planned.has(by.replace(' ', '/')) && planned.get(by.replace(' ', '/')) === null))
        throw new ProblemError(409, 'In use', `${kind} ${id} is named by ${by}. Change that first.`);
    }
  }
  const [whole] = wholeFaults(changes, all);
  if (whole)
    throw new ProblemError(422, 'Not valid', `${whole.kind} ${whole.id}: ${whole.problem}.`, [
      { field: whole.field, problem: `${whole.problem}; expected ${whole.expected}.` },
    ]);
}
