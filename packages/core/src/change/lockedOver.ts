import type { Setting } from '@underpass/contracts';
import { usersOf, type EstateModel } from '../estate/index.js';
import { layerOrder } from '../settings/index.js';
import type { NarrowTo } from './narrow.js';

/** A locked entry of a farther layer: what is written at a nearer place does nothing, for everybody there or for those it is for. */
export interface LockOver {
  entry: Setting;
  /** For everybody there; otherwise for some of them, if anybody. */
  all: boolean;
}

/** Whether a group's entries lie farther than those of another, for somebody in both. */
function isFarther({ groups }: EstateModel, id: string, other: string): boolean {
  const [rank, than] = [groups.get(id)?.rank ?? 0, groups.get(other)?.rank ?? 0];
  return rank === than ? id < other : rank < than;
}

/** Whether what stands at a place is for everybody at a nearer one, or cannot be for anybody there; null where it is for some, perhaps. */
function isFor(model: EstateModel, { layer, target, condition }: Setting, to: NarrowTo): boolean | null {
  const everybody = condition ? null : true;
  const endpoint = to.layer === 'endpoint' ? model.endpoints.get(to.target) : undefined;
  const one = (is: boolean) => (is ? everybody : false);
  switch (layer) {
    case 'organisation':
      return everybody;
    case 'device class':
      return endpoint ? one(endpoint.deviceClass === target) : null;
    case 'location':
      return endpoint ? one(endpoint.location === target) : null;
    case 'group': {
      if (to.layer === 'group') return isFarther(model, target, to.target) ? null : false;
      const person = to.layer === 'person' ? model.people.get(to.target) : undefined;
      return person ? one(model.access.of(person.groups).groups.includes(target)) : null;
    }
    case 'person': {
      const users = endpoint ? usersOf(endpoint) : [];
      return users.length === 1 ? one(users[0] === target) : null;
    }
    default:
      return false;
  }
}

/**
 * Locked entries of farther layers over a setting at a place, the farthest first: what is written there does nothing for whom they are for.
 * @example with the cap of frames locked for the whole organisation, that entry, for everybody
 */
export function lockedOver(model: EstateModel, key: string, to: NarrowTo): LockOver[] {
  const locks: LockOver[] = [];
  for (const entry of model.all('setting').values()) {
    const isFar = layerOrder[entry.layer] < layerOrder[to.layer] || (entry.layer === 'group' && to.layer === 'group');
    if (!entry.locked || entry.key !== key || !isFar) continue;
    const all = isFor(model, entry, to);
    if (all !== false) locks.push({ entry, all: all === true });
  }
  return locks.sort(({ entry: a }, { entry: b }) => layerOrder[a.layer] - layerOrder[b.layer] || (a.id < b.id ? -1 : 1));
}
