import type { KindTraits, Measurement, ObjectKind, Setting, Touches } from '@underpass/contracts';
import { factsOfSet } from '../access/index.js';
import { same, type CrossingRef, type EstateModel, type Laid, type ObjectChange } from '../estate/index.js';
import { fieldAt } from './fields.js';

type TouchedBy = Exclude<Touches, string>[number];

/** Crossings that may come out otherwise: all of them, or those of places, endpoints, people and resources. */
export interface Touch {
  everything: boolean;
  locations: Set<string>;
  endpoints: Set<string>;
  people: Set<string>;
  resources: Set<string>;
}
/** A touch of nothing, to be added to. */
export const untouched = (): Touch => ({
  everything: false,
  locations: new Set(),
  endpoints: new Set(),
  people: new Set(),
  resources: new Set(),
});

function changedFields(before: object | null, after: object | null): string[] | null {
  if (!before || !after) return null;
  const [old, fresh] = [before as Record<string, unknown>, after as Record<string, unknown>];
  return [...new Set([...Object.keys(old), ...Object.keys(fresh)])].filter((field) => !same(old[field], fresh[field]));
}

type Models = readonly [EstateModel, EstateModel];

/** What an object of each sort touches, where one of its fields was written. */
const sorts: Record<TouchedBy['as'], (touch: Touch, id: string, fields: readonly string[] | null, models: Models) => void> = {
  location: (touch, id) => void touch.locations.add(id),
  endpoint: (touch, id) => void touch.endpoints.add(id),
  person: (touch, id) => void touch.people.add(id),
  resource: (touch, id, fields, models) => {
    touch.resources.add(id);
    // whoever has it among theirs meets its name and kind on every way
    if (!fields || fields.includes('kind') || fields.includes('name'))
      for (const model of models)
        for (const publication of model.offering.get(id) ?? []) add(touch.people, model.access.peopleWith(publication));
  },
  pool: (touch, id, _fields, models) => {
    for (const model of models) add(touch.resources, model.resourcesOfPool.get(id) ?? []);
  },
  gateway: (touch, id, fields, models) => {
    // where gateways stand is weighed for every crossing: another one may be nearer
    if (!fields || fields.includes('region') || fields.includes('name')) touch.everything = true;
    else
      for (const model of models)
        for (const pool of model.pools.values()) if (pool.gateway === id) sorts.pool(touch, pool.id, fields, models);
  },
  portal: (touch, id, _fields, models) => {
    for (const model of models)
      for (const publication of model.publications.values())
        if (publication.portals.includes(id)) add(touch.people, model.access.peopleWith(publication.id));
  },
  publication: (touch, id, _fields, models) => {
    for (const model of models) add(touch.people, model.access.peopleWith(id));
  },
  group: (touch, id, _fields, models) => {
    for (const model of models) add(touch.people, model.access.peopleIn(id));
  },
};

/** What a written object touches, by what its kind says of itself. */
function touchedByWrite(touch: Touch, traits: KindTraits, write: ObjectChange, fields: readonly string[] | null, models: Models): void {
  const states = [write.before, write.after].filter((state) => state !== null);
  const { touches } = traits;
  if (touches === 'nothing') return;
  if (touches === 'everything') touch.everything = true;
  else if (touches === 'its layer') for (const entry of states) ofSetting(touch, entry as Setting, models);
  else if (touches === 'gates') {
    // an own one that goes may bring a shipped one back
    const [before, after] = models;
    if (before.gates.length !== after.gates.length || before.gates.some((set, i) => set !== after.gates[i])) touch.everything = true;
  } else
    for (const { field, as } of touches)
      for (const state of states) {
        const named = fieldAt({ id: write.id, ...state }, field);
        for (const id of Array.isArray(named) ? named : [named]) if (typeof id === 'string') sorts[as](touch, id, fields, models);
      }
}

const add = (set: Set<string>, more: Iterable<string>): void => {
  for (const each of more) set.add(each);
};
function ofSetting(touch: Touch, { layer, target }: Setting, models: Models): void {
  switch (layer) {
    case 'organisation':
      touch.everything = true;
      break;
    case 'device class':
      for (const model of models)
        for (const endpoint of model.endpoints.values()) if (endpoint.deviceClass === target) touch.endpoints.add(endpoint.id);
      break;
    case 'location':
      touch.locations.add(target);
      break;
    case 'group':
      for (const model of models) add(touch.people, model.access.peopleIn(target));
      break;
    case 'person':
      touch.people.add(target);
      break;
    case 'endpoint':
      touch.endpoints.add(target);
  }
}

function measuredTouch(touch: Touch, { endpoint, location, figures }: Measurement, model: EstateModel): void {
  const own = model.locations.get(location)?.ownLines ?? false;
  // the gateway's and the hosts' steps of a sign-in are timed for everybody of the place
  if (own && endpoint !== undefined && !figures.signon) touch.endpoints.add(endpoint);
  else touch.locations.add(location);
}

/** Fields, as `kind.field`, that a gate asks for before or after: whoever it keeps out does not get in. */
function askedByGates(models: Models): ReadonlySet<string> {
  const asked = new Set<string>();
  for (const { gates } of models)
    for (const set of gates) for (const fact of factsOfSet(set)) asked.add(fact.split('.').slice(0, 2).join('.'));
  return asked;
}

/**
 * What a layer over the estate touches. It says too much rather than too little.
 * @param of results: everything that is worked out for a crossing; demand: what its session asks of a line; words: also how its
 * findings are told, which has the names of objects in it
 */
export function touchOf(laid: Laid, after: EstateModel, of: 'results' | 'demand' | 'words'): Touch {
  const touch = untouched();
  const models: Models = [laid.under, after];
  let asked: ReadonlySet<string> | null = null;
  const isSilent = (kind: ObjectKind, field: string, silent: readonly string[]): boolean =>
    of !== 'words' && silent.includes(field) && !(asked ??= askedByGates(models)).has(`${kind}.${field}`);
  for (const write of laid.writes) {
    const traits = after.traits?.[write.kind];
    if (!traits) {
      // nothing is known of the kind: everything may be another
      touch.everything = true;
      continue;
    }
    if (of === 'demand' && traits.undemanding) continue;
    const fields = changedFields(write.before, write.after)?.filter((field) => !isSilent(write.kind, field, traits.silent)) ?? null;
    if (fields?.length === 0) continue;
    touchedByWrite(touch, traits, write, fields, models);
  }
  for (const measurement of laid.measurements) {
    if (of !== 'demand') measuredTouch(touch, measurement, after);
    // a device's own figures count for that device alone; those of a line do not change what is asked of it
    else if (measurement.endpoint !== undefined) touch.endpoints.add(measurement.endpoint);
  }
  if (of !== 'demand')
    for (const one of laid.supposed) {
      if (one.suppose === 'drawing') touch.endpoints.add(one.endpoint);
      else touch[one.kind === 'location' ? 'locations' : 'endpoints'].add(one.id);
    }
  return touch;
}

/** Whether no crossing can come out otherwise. */
export const touchesNothing = ({ everything, locations, endpoints, people, resources }: Touch): boolean =>
  !everything && locations.size + endpoints.size + people.size + resources.size === 0;

/** Whether a crossing is one of those touched. */
export const isTouched = ({ everything, locations, endpoints, people, resources }: Touch, ref: CrossingRef): boolean =>
  everything || locations.has(ref.location) || endpoints.has(ref.endpoint) || people.has(ref.person) || resources.has(ref.resource);

/** The crossings of a model that are touched, each once. */
export function crossingsTouched(touch: Touch, model: EstateModel): Iterable<CrossingRef> {
  if (touch.everything) return model.crossings;
  const { locations, endpoints, people, resources } = touch;
  // those of one place are mostly all, and each is there once
  if (locations.size === 1 && endpoints.size + people.size + resources.size === 0) {
    const [location] = locations;
    return model.crossingsAt(location as string);
  }
  const found = new Map<string, CrossingRef>();
  const take = (refs: Iterable<CrossingRef>) => {
    for (const ref of refs) found.set(ref.id, ref);
  };
  for (const id of touch.endpoints) {
    const endpoint = model.endpoints.get(id);
    if (endpoint) take(model.crossingsOn(endpoint));
  }
  for (const person of touch.people) take(model.crossingsOf(person));
  for (const location of touch.locations) take(model.crossingsAt(location));
  const having = new Set<string>();
  for (const resource of touch.resources)
    for (const publication of model.offering.get(resource) ?? []) add(having, model.access.peopleWith(publication));
  for (const person of having) take(model.crossingsOf(person).filter(({ resource }) => touch.resources.has(resource)));
  return found.values();
}
