import type { Missing } from '../crossing/index.js';
import type { CrossingRef, EstateModel } from '../estate/index.js';

/** How a fact is learned, and how long that takes somebody, minutes; common practice, no source. */
export const ways = {
  'field check': 1,
  'report of the hosts': 2,
  'look at the gateway': 2,
  'look at the device': 2,
  'timed sign-in': 1,
  'ask for what is assumed': 1,
} as const;
/** A way to learn a fact. */
export type WayToLearn = keyof typeof ways;

/** How each fact is learned. */
export const wayOf: Record<Missing, WayToLearn> = {
  'round trips': 'field check',
  'line rate': 'field check',
  'rate upwards': 'field check',
  loss: 'field check',
  'people at once': 'field check',
  'Wi-Fi signal': 'field check',
  'reach of the gateway': 'field check',
  decoders: 'field check',
  screens: 'field check',
  'graphics of the host': 'report of the hosts',
  'host figures': 'report of the hosts',
  'power of the hosts': 'report of the hosts',
  'places of the hosts': 'report of the hosts',
  certificate: 'look at the gateway',
  'TLS of the gateway': 'look at the gateway',
  'client version': 'look at the device',
  'second factor time': 'timed sign-in',
  'sign-on times': 'timed sign-in',
  'what is assumed': 'ask for what is assumed',
};

/** Facts of a device, which tell nothing of the one beside it. */
const ofDevice: ReadonlySet<Missing> = new Set<Missing>(['screens', 'decoders', 'Wi-Fi signal', 'client version']);
/** Facts that are learned together: in the same way, and of the same thing. */
const keyOf = Object.fromEntries(
  Object.entries(wayOf).map(([fact, way]) => [fact, `${way}${ofDevice.has(fact as Missing) ? ' of each device' : ''}`]),
) as Record<Missing, string>;
/** Whether each endpoint has to be asked: for what is of the device, and for the line where each has its own. */
export const isOfEach = (fact: Missing, ownLines: boolean): boolean => ofDevice.has(fact) || (ownLines && wayOf[fact] === 'field check');

/** What would tell most crossings for the least effort. */
export interface Settling {
  way: WayToLearn;
  location: string;
  crossings: number;
  people: number;
  /** How often it has to be done: once for a line that is shared, else for each endpoint. */
  times: number;
  minutes: number;
}

/** Most crossings a minute; of equals the one of more crossings, then by place and way. */
function isBefore(a: Settling, b: Settling): boolean {
  const rate = a.crossings / a.minutes - b.crossings / b.minutes;
  if (rate !== 0) return rate > 0;
  if (a.crossings !== b.crossings) return a.crossings > b.crossings;
  return a.location === b.location ? a.way < b.way : a.location < b.location;
}

interface Waiting {
  /** One of the facts that are missing, for how it is learned. */
  fact: Missing;
  way: WayToLearn;
  people: Map<string, number>;
  endpoints: Map<string, number>;
  crossings: number;
}

function count(map: Map<string, number>, id: string, times: 1 | -1): void {
  const now = (map.get(id) ?? 0) + times;
  if (now > 0) map.set(id, now);
  else map.delete(id);
}

/** Crossings that are not known, by the place and the way to learn what is missing; one that is known is taken out again. */
export class SettlingTally {
  /** By location, and by the way of each fact. */
  private readonly waiting = new Map<string, Map<string, Waiting>>();

  add({ location, person, endpoint }: CrossingRef, fact: Missing, times: 1 | -1): void {
    let there = this.waiting.get(location);
    if (!there) this.waiting.set(location, (there = new Map()));
    const key = keyOf[fact];
    let one = there.get(key);
    if (!one) there.set(key, (one = { way: wayOf[fact], fact, people: new Map(), endpoints: new Map(), crossings: 0 }));
    one.crossings += times;
    count(one.people, person, times);
    count(one.endpoints, endpoint, times);
    if (one.crossings === 0) there.delete(key);
    if (there.size === 0) this.waiting.delete(location);
  }

  /** The best of them; null where all is known. */
  best(model: EstateModel): Settling | null {
    let best: Settling | null = null;
    for (const [location, there] of this.waiting) {
      const place = model.locations.get(location);
      for (const { way, fact, people, endpoints, crossings } of there.values()) {
        const each = isOfEach(fact, place?.ownLines ?? false);
        const times = each ? endpoints.size : 1;
        const next: Settling = {
          way,
          location: place?.name ?? location,
          crossings,
          people: people.size,
          times,
          minutes: times * ways[way],
        };
        if (!best || isBefore(next, best)) best = next;
      }
    }
    return best;
  }
}
