import {
  emptyEstate,
  faultsOfObject,
  objectKinds,
  objectSchemas,
  referencesOf,
  reportedKinds,
  type Endpoint,
  type Estate,
  type Firmware,
  type ObjectKind,
} from '@underpass/contracts';
import { faultOfObject, putBackBy, type EstateFault, type ObjectChange } from '@underpass/core';
import { ProblemError } from '../problems/problem.js';
import { faultsOfWhole, judgedTogether } from './whole.js';

type Find = (kind: ObjectKind, id: string) => object | undefined;

/** The first object that names each of these, which cannot be taken away for it. @param becomes what another one is then; null: nothing that counts */
function namedBy(
  gone: readonly ObjectChange[],
  becomes: (key: string) => object | null | undefined,
  all: (kind: ObjectKind) => Iterable<object>,
): Map<string, string> {
  const keys = new Set(gone.map(({ kind, id }) => `${kind}/${id}`));
  const named = new Map<string, string>();
  if (keys.size === 0) return named;
  for (const from of objectKinds) {
    if (reportedKinds.includes(from)) continue;
    for (const object of all(from)) {
      const { id } = object as { id: string };
      const next = becomes(`${from}/${id}`);
      if (next === null) continue;
      for (const { to, id: names } of referencesOf(from, next ?? object)) {
        const key = `${to}/${names}`;
        if (keys.has(key) && !named.has(key)) named.set(key, `${from} ${id}`);
      }
    }
  }
  return named;
}

/** What is wrong in the whole once the changes are made: loops, mixed publications. Told at the object that was changed. */
function wholeFaults(changes: readonly ObjectChange[], all: (kind: ObjectKind) => Iterable<object>): EstateFault[] {
  if (!changes.some(({ kind }) => judgedTogether.has(kind))) return [];
  const after = Object.fromEntries(
    [...judgedTogether].map((kind) => {
      const objects = new Map([...all(kind)].map((object) => [(object as { id: string }).id, object]));
      for (const change of changes) {
        if (change.kind !== kind) continue;
        if (change.after) objects.set(change.id, objectSchemas[kind].parse(change.after));
        else objects.delete(change.id);
      }
      return [kind, [...objects.values()]];
    }),
  );
  return faultsOfWhole({ ...emptyEstate(), ...after } as Estate);
}

/** Older firmware than devices have is put up for a reason, or not at all: they install what differs at their next start. */
export function assertReason({ kind, id, after }: ObjectChange, all: (kind: ObjectKind) => Iterable<object>): void {
  if (kind !== 'firmware' || !after) return;
  const file = objectSchemas.firmware.parse(after);
  if (file.reason?.trim()) return;
  const back = putBackBy(file, [...all('firmware')] as Firmware[], all('endpoint') as Iterable<Endpoint>);
  if (back.length === 0) return;
  const whom = back.length === 1 ? `${back[0]} has` : `${back.length} devices have`;
  throw new ProblemError(422, 'Not valid', `firmware ${id}: ${whom} something newer and would be put back at the next start. Say why.`, [
    { field: 'reason', problem: `must be given: ${whom} something newer than ${file.version}` },
  ]);
}

/** Throws where something that is to go is named by what stays as it is. */
export function assertLeaving(
  leaving: readonly ObjectChange[],
  writes: readonly ObjectChange[],
  store: { all: (kind: ObjectKind) => Iterable<object> },
): void {
  const written = new Map(writes.map(({ kind, id, after }) => [`${kind}/${id}`, after]));
  const named = namedBy(
    leaving,
    (key) => written.get(key),
    (kind) => store.all(kind),
  );
  for (const [key, by] of named)
    throw new ProblemError(409, 'In use', `${key.replace('/', ' ')} is named by ${by}. Change that first; nothing was written.`);
}

/** Throws the problem of the first change that is not valid. Changes of one set may refer to each other. */
export function assertValid(changes: readonly ObjectChange[], find: Find, all: (kind: ObjectKind) => Iterable<object>): void {
  const planned = new Map(changes.map((change) => [`${change.kind}/${change.id}`, change.after]));
  const exists = (kind: ObjectKind, id: string): boolean => {
    const key = `${kind}/${id}`;
    return planned.has(key) ? planned.get(key) !== null : find(kind, id) !== undefined;
  };
  const namers = namedBy(
    changes.filter(({ after }) => !after),
    // one that names it too but is changed with it is judged by what it becomes
    (key) => (planned.has(key) ? null : undefined),
    all,
  );
  for (const { kind, id, after } of changes) {
    if (after) {
      const faults = faultsOfObject(kind, after, exists, faultOfObject);
      if (faults.length)
        throw new ProblemError(
          422,
          'Not valid',
          `${kind} ${id}: ${faults.map(({ field, problem }) => `${field} ${problem}`).join('; ')}`,
          faults,
        );
    } else {
      const by = namers.get(`${kind}/${id}`);
      if (by) throw new ProblemError(409, 'In use', `${kind} ${id} is named by ${by}. Change that first.`);
    }
  }
  const [whole] = wholeFaults(changes, all);
  if (whole)
    throw new ProblemError(422, 'Not valid', `${whole.kind} ${whole.id}: ${whole.problem}.`, [
      { field: whole.field, problem: `${whole.problem}; expected ${whole.expected}.` },
    ]);
}
