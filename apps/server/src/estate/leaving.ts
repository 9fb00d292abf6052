import type { Endpoint, Estate, Setting } from '@underpass/contracts';
import type { ObjectChange } from '@underpass/core';

/** What goes when people do: their records, their reports and own settings; endpoints stay and are nobody's. */
export function leavingOf(
  estate: Pick<Estate, 'person' | 'session' | 'signedIn' | 'setting' | 'endpoint'>,
  ids: ReadonlySet<string>,
): ObjectChange[] {
  const gone = (kind: ObjectChange['kind'], objects: readonly { id: string }[]): ObjectChange[] =>
    objects.map((object) => ({ kind, id: object.id, before: object, after: null }));
  const without = ({ person, ...endpoint }: Endpoint): Endpoint => ({
    ...endpoint,
    ...(person !== undefined && !ids.has(person) ? { person } : {}),
    users: endpoint.users.filter((user) => !ids.has(user)),
  });
  return [
    ...gone(
      'person',
      estate.person.filter(({ id }) => ids.has(id)),
    ),
    ...gone(
      'session',
      estate.session.filter(({ person }) => ids.has(person)),
    ),
    ...gone(
      'signedIn',
      estate.signedIn.filter(({ id }) => ids.has(id)),
    ),
    ...gone(
      'setting',
      estate.setting.filter(({ layer, target }: Setting) => layer === 'person' && ids.has(target)),
    ),
    ...estate.endpoint
      .filter(({ person, users }) => (person !== undefined && ids.has(person)) || users.some((user) => ids.has(user)))
      .map((endpoint) => ({ kind: 'endpoint' as const, id: endpoint.id, before: endpoint, after: without(endpoint) })),
  ];
}
