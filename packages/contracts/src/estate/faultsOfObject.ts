import { faultsOfError } from '../files/faults.js';
import { objectSchemas, type ObjectKind } from './estate.js';
import { referencesOf } from './references.js';

/** What no schema can know, such as a value of the settings' catalogue; null where nothing is wrong. */
export type ObjectCheck = (kind: ObjectKind, value: object) => { field: string; problem: string; expected: string } | null;

/** What is wrong with an object, field by field: one list for forms, drafts, impact and changes, as the files' readers tell it. */
export function faultsOfObject(
  kind: ObjectKind,
  value: unknown,
  exists: (kind: ObjectKind, id: string) => boolean,
  check: ObjectCheck,
): { field: string; problem: string }[] {
  const parsed = objectSchemas[kind].safeParse(value);
  if (!parsed.success) return faultsOfError(parsed.error).map(({ path, problem }) => ({ field: path.join('.'), problem }));
  const faults = referencesOf(kind, parsed.data)
    .filter(({ to, id }) => !exists(to, id))
    .map(({ field, to, id }) => ({ field, problem: `no ${to} has the id “${id}”` }));
  const fault = faults.length === 0 ? check(kind, parsed.data) : null;
  return fault ? [{ field: fault.field, problem: fault.problem }] : faults;
}

/** An object with what its schema fills in where nothing stands; as it is where it is not valid. */
export function completed(kind: ObjectKind, value: object): object {
  const parsed = objectSchemas[kind].safeParse(value);
  return parsed.success ? parsed.data : value;
}
