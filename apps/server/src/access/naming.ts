import type { ChainNode, Named } from '@underpass/contracts';
import type { ChainLink, EstateModel, Reached } from '@underpass/core';

type Model = Pick<EstateModel, 'people' | 'groups' | 'publications' | 'portals' | 'resources' | 'endpoints' | 'locations'>;
const maps: Record<ChainLink['kind'] | 'endpoint' | 'location', keyof Model> = {
  person: 'people',
  group: 'groups',
  publication: 'publications',
  portal: 'portals',
  resource: 'resources',
  endpoint: 'endpoints',
  location: 'locations',
};

/** An object's id with its name; the id stands for the name of one that is gone. */
export const named = (model: Model, kind: keyof typeof maps, id: string): Named => ({ id, name: model[maps[kind]].get(id)?.name ?? id });
export const nodeOf = (model: Model, { kind, id }: ChainLink): ChainNode => ({ kind, ...named(model, kind, id) });

/** The chain that gives a resource, by name; without the person where it is told for many. */
export const chainNodes = (model: Model, { groups, publication, portal, resource }: Reached, person?: string): ChainNode[] =>
  [
    ...(person === undefined ? [] : [{ kind: 'person', id: person } as const]),
    ...groups.map((id) => ({ kind: 'group', id }) as const),
    { kind: 'publication', id: publication } as const,
    ...(portal === null ? [] : [{ kind: 'portal', id: portal } as const]),
    { kind: 'resource', id: resource } as const,
  ].map((link) => nodeOf(model, link));
