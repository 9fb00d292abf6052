import { valueAt } from './path.js';
import type { ScimResource } from './resource.js';
import { enterpriseSchema } from './schema.js';

const textAt = (object: unknown, name: string): string | undefined => {
  const value = valueAt(object, name);
  return typeof value === 'string' && value.trim() !== '' ? value.trim() : undefined;
};
/** Of several the one that comes first, else one for work, else the first. */
function best(list: unknown): unknown {
  const all = Array.isArray(list) ? list : [];
  return all.find((each) => valueAt(each, 'primary') === true) ?? all.find((each) => valueAt(each, 'type') === 'work') ?? all[0];
}

/** What a directory that sends says of a person: what they are called, whether they may sign in, and where they work. */
export interface ScimPerson {
  key: string;
  name: string;
  active: boolean;
  /** Name of the place; null where nothing says it. */
  place: string | null;
}

/** Which attribute names the place of a person. */
export type PlaceFrom = 'locality' | 'department' | 'division' | 'nothing';

/** A person out of a resource. */
export function personOf(resource: ScimResource, placeFrom: PlaceFrom): ScimPerson {
  const own = valueAt(resource, 'name');
  const parts = [textAt(own, 'givenName'), textAt(own, 'familyName')].filter((part) => part !== undefined).join(' ');
  const key = textAt(resource, 'userName') ?? '';
  const name = textAt(resource, 'displayName') ?? textAt(own, 'formatted') ?? (parts || key);
  const work = valueAt(resource, enterpriseSchema.id);
  const place =
    placeFrom === 'nothing'
      ? undefined
      : placeFrom === 'locality'
        ? textAt(best(valueAt(resource, 'addresses')), 'locality')
        : textAt(work, placeFrom);
  return { key, name, active: valueAt(resource, 'active') !== false, place: place ?? null };
}

/** Keys of the members of a group. */
export const membersOf = (resource: ScimResource): string[] => [
  ...new Set(((valueAt(resource, 'members') ?? []) as unknown[]).flatMap((each) => textAt(each, 'value') ?? [])),
];
