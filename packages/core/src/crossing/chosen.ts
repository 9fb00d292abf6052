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
// remembered with the list it was chosen from: whoever has the same one, in whatever model, has the same result
const chosen = new WeakMap<readonly Measurement[], Map<string, Chosen>>();
const timed = new WeakMap<readonly Measurement[], readonly Measurement[]>();
const noEvidence: Evidence = { rejected: [] };

/** What was worked out of an object once, and made where it is not known yet. */
export function remembered<K, V>(map: { get: (key: K) => V | undefined; set: (key: K, value: V) => unknown }, key: K, make: () => V): V {
  let known = map.get(key);
  if (known === undefined) map.set(key, (known = make()));
  return known;
}

const measuredOn = new WeakMap<readonly Measurement[], ReadonlySet<string | undefined>>();
/** Stands for every endpoint that nothing was measured on: they all have what the others' measurements say of their line. */
const nobody = '';

/** What was measured for a seat, chosen once for each list of measurements. */
export function measuredFor({ measured, endpoint, location }: MeasuredAt, farEnd: Region): Evidence {
  if (!measured) return noEvidence;
  const isOwn = remembered(measuredOn, measured, () => new Set(measured.map((each) => each.endpoint))).has(endpoint.id);
  const byEndpoint = remembered(chosen, measured, () => new Map<string, Chosen>());
  const key = `${isOwn ? endpoint.id : nobody}|${farEnd.id}`;
  const known = byEndpoint.get(key);
  if (
    known?.location === location &&
    known.farEnd === farEnd &&
    // when something of a device was typed counts for what was measured on that device
    (!isOwn || (known.endpoint.screensAt === endpoint.screensAt && known.endpoint.decodersAt === endpoint.decodersAt))
  )
    return known.evidence;
  const evidence = chooseEvidence(measured, location, endpoint, farEnd);
  byEndpoint.set(key, { endpoint, location, farEnd, evidence });
  return evidence;
}

/** How long their sign-ins took, where somebody timed one there. */
export function timedFor({ measured, endpoint }: MeasuredAt, person: Person): ReturnType<typeof chooseSignonTimes> | undefined {
  if (!measured) return undefined;
  const found = remembered(timed, measured, () => measured.filter((measurement) => measurement.figures.signon));
  return found.length ? chooseSignonTimes(found, endpoint.id, person.id) : undefined;
}
