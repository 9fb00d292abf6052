import { objectSchemas, references, referencesOf, type ObjectKind, type Setting } from '@underpass/contracts';
import { faultOfValue, type ObjectChange } from '@underpass/core';
import { ProblemError } from '../problems/problem.js';

type Find = (kind: ObjectKind, id: string) => object | undefined;

/** What is wrong with an object as a person typed it, field by field. */
export function faultsOf(kind: ObjectKind, value: unknown, find: Find): { field: string; problem: string }[] {
  const parsed = objectSchemas[kind].safeParse(value);
  if (!parsed.success)
    return parsed.error.issues.map((issue) => ({
      field: issue.path.map(String).join('.'),
      problem: issue.message.replace(/^Invalid input: /, ''),
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

/** Objects that name this one, so that it cannot be taken away. */
function namedBy(kind: ObjectKind, id: string, all: (kind: ObjectKind) => Iterable<object>): string | null {
  for (const [from, fields] of Object.entries(references) as [ObjectKind, Record<string, ObjectKind>][])
    for (const [field, to] of Object.entries(fields)) {
      if (to !== kind) continue;
      for (const object of all(from)) {
        const content = (object as Record<string, unknown>)[field];
        if (Array.isArray(content) ? content.includes(id) : content === id) return `${from} ${(object as { id: string }).id}`;
      }
    }
  return null;
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
}
