import type { Endpoint, Estate, Setting } from '@underpass/contracts';
import type { ObjectChange } from '@underpass/core';

/** What goes when a person does: their record, their reports and own settings; endpoints stay and are nobody's. */
export function leavingOf(estate: Pick<Estate, 'person' | 'session' | 'signedIn' | 'setting' | 'endpoint'>, id: string): ObjectChange[] {
  const gone = (kind: ObjectChange['kind'], objects: readonly { id: string }[]): ObjectChange[] =>
    objects.map((object) => ({ kind, id: object.id, before: object, after: null }));
  const without = ({ person, ...endpoint }: Endpoint): Endpoint => ({
    ...endpoint,
    ...(person !== undefined && person !== id ? { person } : {}),
    users: endpoint.users.filter((user) => user !== id),
  });
  return [
    ...gone(
      'person',
      estate.person.filter((person) => person.id === id),
    ),
    ...gone(
      'session',
      estate.session.filter(({ person }) => person === id),
    ),
    ...gone(
      'signedIn',
      estate.signedIn.filter((each) => each.id === id),
    ),
    ...gone(
      'setting',
      estate.setting.filter(({ layer, target }: Setting) => layer === 'person' && target === id),
    ),
    ...estate.endpoint
      .filter(({ person, users }) => person === id || users.includes(id))
      .map((endpoint) => ({ kind: 'endpoint' as const, id: endpoint.id, before: endpoint, after: without(endpoint) })),
  ];
}
