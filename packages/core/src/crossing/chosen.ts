import type { Endpoint, Location, Measurement, Person, Region } from '@underpass/contracts';
import { chooseEvidence, chooseSignonTimes, type Evidence } from '../evidence/index.js';

/** What somebody's evidence is chosen for: what was measured where they sit, and what they sit at. */
export interface MeasuredAt {
  measured: readonly Measurement[] | undefined;
  endpoint: Endpoint;
  location: Location;
}
/** What was chosen from a list of measurements, and for what. */
interface Chosen {
  endpoint: Endpoint;
  location: Location;
  farEnd: Region | undefined;
  evidence: Evidence;
}
/** What was chosen from a list, by the far end: for each endpoint that something was measured on, and for all others alike. */
interface ChosenFrom {
  own: ReadonlyMap<string | undefined, Map<string, Chosen>>;
  others: Map<string, Chosen>;
}
// remembered with the list it was chosen from: whoever has the same one, in whatever model, has the same result
const chosen = new WeakMap<readonly Measurement[], ChosenFrom>();
const timed = new WeakMap<readonly Measurement[], readonly Measurement[]>();
const nothingChosen = (measured: readonly Measurement[]): ChosenFrom => ({
  own: new Map(measured.map(({ endpoint }) => [endpoint, new Map<string, Chosen>()])),
  others: new Map(),
});
const withTimes = (measured: readonly Measurement[]): readonly Measurement[] => measured.filter(({ figures }) => figures.signon);
const noEvidence: Evidence = { rejected: [] };

/**
 * What was worked out of an object once, and made where it is not known yet.
 * @param make is given the key, so that one function can be named where it is asked for every crossing, instead of making one each time
 */
export function remembered<K, V>(
  map: { get: (key: K) => V | undefined; set: (key: K, value: V) => unknown },
  key: K,
  make: (key: K) => V,
): V {
  let known = map.get(key);
  if (known === undefined) map.set(key, (known = make(key)));
  return known;
}

/** What was measured for a seat, chosen once for each list of measurements. */
export function measuredFor({ measured, endpoint, location }: MeasuredAt, farEnd: Region): Evidence {
  if (!measured) return noEvidence;
  const from = remembered(chosen, measured, nothingChosen);
  const own = from.own.get(endpoint.id);
  const byFarEnd = own ?? from.others;
  const known = byFarEnd.get(farEnd.id);
  if (
    known?.location === location &&
    known.farEnd === farEnd &&
    // when something of a device was typed counts for what was measured on that device
    (!own || (known.endpoint.screensAt === endpoint.screensAt && known.endpoint.decodersAt === endpoint.decodersAt))
  )
    return known.evidence;
  const evidence = chooseEvidence(measured, location, endpoint, farEnd);
  byFarEnd.set(farEnd.id, { endpoint, location, farEnd, evidence });
  return evidence;
}

/** How long their sign-ins took, where somebody timed one there. */
export function timedFor({ measured, endpoint }: MeasuredAt, person: Person): ReturnType<typeof chooseSignonTimes> | undefined {
  if (!measured) return undefined;
  const found = remembered(timed, measured, withTimes);
  return found.length ? chooseSignonTimes(found, endpoint.id, person.id) : undefined;
}
