import { keyOfName, standIns, withStandIns, type ObjectKind, type OnePersonRequest, type Resource } from '@underpass/contracts';
import type { EstateModel, ObjectChange } from '@underpass/core';

/** What is made for one person to check, and where the crossing is. */
export interface OnePerson {
  writes: ObjectChange[];
  person: string;
  endpoint: string;
  location: string;
  resource: string;
}

/** Everybody who was checked before anything else was known of them may open what they open by this group. */
const groupId = 'checked-people';

/** Objects that are made, each with an id of its name that nobody has. */
class Making {
  readonly writes = new Map<string, ObjectChange>();

  constructor(private readonly model: EstateModel) {}

  private now(kind: ObjectKind, id: string): object | undefined {
    return this.writes.get(`${kind}/${id}`)?.after ?? this.model.all(kind).get(id);
  }

  make(kind: ObjectKind, name: string, fields: Record<string, unknown>): string {
    const key = keyOfName(name) || kind;
    let id = key;
    for (let i = 2; this.now(kind, id); i++) id = `${key.slice(0, 60)}-${i}`;
    this.put(kind, id, withStandIns(kind, { ...fields, id, name }));
    return id;
  }

  put(kind: ObjectKind, id: string, after: object): void {
    const before = this.model.all(kind).get(id) ?? null;
    this.writes.set(`${kind}/${id}`, { kind, id, before, after });
  }
}

/**
 * The objects that a crossing of one person needs, of which nearly nothing is known: what is not said is taken to be so, and stands in
 * `assumed`. What is there already is used.
 */
export function onePerson(model: EstateModel, asked: OnePersonRequest): OnePerson {
  const making = new Making(model);
  const name = asked.name || 'Somebody';
  const resource = asked.resource ?? opened(making, model, asked.address as string, asked);
  const location = asked.location ?? making.make('location', `Where ${name} sits`, { kind: 'outside', sharedBy: 1 });
  const group = groupFor(making, model, resource);
  const person = making.make('person', name, { kind: 'staff', location, groups: group ? [group] : [] });
  const endpoint = making.make('endpoint', `Device of ${name}`, {
    ...{ location, person },
    ...(asked.clientKind ? { clientKind: asked.clientKind } : {}),
    ...(asked.ownership ? { ownership: asked.ownership } : {}),
  });
  return { writes: [...making.writes.values()], person, endpoint, location, resource };
}

/** The resource behind an address, with all that stands between: made where it is not there. */
function opened(making: Making, model: EstateModel, address: string, { what, work }: OnePersonRequest): string {
  const gateways = [...model.gateways.values()];
  const there = gateways.find((each) => each.address.toLowerCase() === address.toLowerCase());
  const pools = there ? [...model.pools.values()].filter(({ gateway }) => gateway === there.id) : [];
  const known = [...model.resources.values()].find(
    (each) => each.name.toLowerCase() === what.toLowerCase() && pools.some(({ id }) => id === each.pool),
  );
  if (known) return known.id;
  let pool = pools[0]?.id;
  const gateway = there?.id ?? making.make('gateway', address, { address, region: making.make('region', `Where ${address} stands`, {}) });
  if (pool === undefined) {
    pool = making.make('pool', `Hosts behind ${address}`, { gateway });
    const region = there?.region ?? (making.writes.get(`gateway/${gateway}`)?.after as { region: string } | undefined)?.region;
    making.make('host', `A host behind ${address}`, { pool, region });
  }
  const usual = standIns.resource as Pick<Resource, 'work'>;
  const id = making.make('resource', what, { kind: 'desktop', pool, ...(work ? { work } : { work: usual.work, assumed: ['work'] }) });
  const portal =
    [...model.portals.values()].find((each) => each.gateway === gateway)?.id ?? making.make('portal', address, { gateway, address });
  making.make('publication', what, { kind: 'desktop', pool, resources: [id], portals: [portal] });
  return id;
}

/** A group that may use a resource: one that is there, or the one of people who were checked. */
function groupFor(making: Making, model: EstateModel, resource: string): string | null {
  const made = [...making.writes.values()].find(
    ({ kind, after }) => kind === 'publication' && (after as { resources: string[] }).resources.includes(resource),
  );
  const publication = made?.id ?? [...model.publications.values()].find(({ resources }) => resources.includes(resource))?.id;
  if (publication === undefined) return null;
  const holding = [...model.groups.values()].find(({ publications }) => publications.includes(publication));
  if (holding) return holding.id;
  const now = model.groups.get(groupId) ?? { id: groupId, name: 'People who were checked', rank: 0, memberOf: [], publications: [] };
  making.put('group', groupId, { ...now, publications: [...now.publications, publication] });
  return groupId;
}
