import type { ObjectKind, Verdict } from '@underpass/contracts';
import { same } from '../estate/index.js';
import { resolveSettings, type SettingKey } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import { lineOfSeat, subjectOf } from './subjectOf.js';

/** A field of an object that is taken to be so and that nobody knows. */
export interface AssumedField {
  kind: ObjectKind;
  id: string;
  name: string;
  field: string;
  /** What it is taken to be. */
  value: unknown;
}
/** The same where the verdict hangs on it. */
export interface OpenField extends AssumedField {
  /** What it would come to if it were otherwise, by itself; none where it decides only together with others. */
  otherwise: { value: unknown; verdict: Verdict }[];
  /** What it may come to together with others, where none decides by itself. */
  together?: Verdict;
}

/** What a field may be instead. A position is one thing: near the far end, or on the other side of the world. */
const alternatives: Partial<Record<ObjectKind, Readonly<Record<string, readonly unknown[]>>>> = {
  endpoint: {
    deviceClass: ['thin-client', 'laptop', 'desktop-computer', 'tablet', 'phone', 'kiosk'],
    ownership: ['managed', 'personal'],
    platform: ['thin', 'desktop', 'mobile'],
    processor: ['armhf', 'arm64', 'x86-64'],
    clientKind: ['browser', 'native client', 'thin-client firmware'],
  },
  location: {
    lineKind: ['fibre', 'cable', 'dsl', '4g', '5g', 'radio', 'leo-satellite', 'geo-satellite'],
    latitude: [0, 1],
  },
  region: { latitude: [0, 1] },
  gateway: { securityModes: [['tls'], ['pre-session'], ['tls', 'pre-session']] },
  pool: { securityModes: [['tls'], ['pre-session'], ['tls', 'pre-session']] },
  host: { places: [1, 2, 1000] },
  resource: {
    work: ['office', 'calls', 'video', 'design', 'touch', 'status'],
    content: [{ still: 1 }, { text: 1 }, { window: 1 }, { 'page-video': 0.5, text: 0.5 }, { video: 1 }, { motion: 1 }],
  },
};

type Object_ = { id: string; name: string; assumed?: readonly string[] | undefined };

/** The objects of a crossing that may have such fields. */
const objectsOf = (facts: CrossingFacts): readonly (readonly [ObjectKind, Object_])[] => [
  ['endpoint', facts.endpoint],
  ['location', facts.location],
  ['resource', facts.resource],
  ['pool', facts.pool],
  ['gateway', facts.gateway],
  ['region', facts.gatewayRegion],
  ...facts.hosts.map((host) => ['host', host] as const),
];

/** Fields of a crossing’s objects that are taken to be so. Mostly there are none, and that is found out quickly. */
export function assumedFieldsOf(facts: CrossingFacts): readonly AssumedField[] {
  const { endpoint, location, resource, pool, gateway, gatewayRegion, hosts } = facts;
  if (
    !(endpoint.assumed ?? location.assumed ?? resource.assumed ?? pool.assumed ?? gateway.assumed ?? gatewayRegion.assumed) &&
    !hosts.some(({ assumed }) => assumed)
  )
    return none;
  return objectsOf(facts).flatMap(([kind, object]) =>
    // a place on the map is one thing, whichever half of it is not known
    [...new Set((object.assumed ?? []).map((field) => (field === 'longitude' ? 'latitude' : field)))]
      .filter((field) => alternatives[kind]?.[field])
      .map((field): AssumedField => ({
        kind,
        id: object.id,
        name: object.name,
        field,
        value: (object as unknown as Record<string, unknown>)[field],
      })),
  );
}
const none: readonly AssumedField[] = [];

/** Values a field may have instead of the one it is taken to have. */
export const otherValues = ({ kind, field, value }: AssumedField): readonly unknown[] =>
  (alternatives[kind]?.[field] ?? []).filter((each) => field === 'latitude' || JSON.stringify(each) !== JSON.stringify(value));

/** So many ways in which all fields may be are tried; where there are more, each and each two of them. */
const mostTried = 128;

/** The facts with some of the fields otherwise, in every way in which each of them may be. */
function* ways(facts: CrossingFacts, fields: readonly AssumedField[]): Generator<CrossingFacts> {
  const [field, ...rest] = fields;
  if (!field) return yield facts;
  for (const value of [field.value, ...otherValues(field)])
    yield* ways(value === field.value ? facts : withAssumed(facts, field, value), rest);
}

/**
 * The fields by which the verdict hangs: each that makes it another by itself; where none does, those that do together. Up to 128 ways
 * in which all may be are all tried; where there are more, every two fields.
 * @param verdict what it is with everything taken to be so
 * @param verdictOf evaluates facts
 */
export function openFieldsOf(
  facts: CrossingFacts,
  fields: readonly AssumedField[],
  verdict: Verdict,
  verdictOf: (facts: CrossingFacts) => Verdict,
): OpenField[] {
  const alone = fields.flatMap((field): OpenField[] => {
    const otherwise = otherValues(field)
      .map((value) => ({ value, verdict: verdictOf(withAssumed(facts, field, value)) }))
      .filter((each) => each.verdict !== verdict);
    return otherwise.length ? [{ ...field, otherwise }] : [];
  });
  if (alone.length > 0) return alone;
  const all = fields.reduce((product, field) => product * (1 + otherValues(field).length), 1);
  const sets = all <= mostTried ? [fields] : fields.flatMap((one, i) => fields.slice(i + 1).map((other) => [one, other]));
  for (const set of sets)
    for (const each of ways(facts, set)) {
      const together = verdictOf(each);
      if (together !== verdict) return set.map((field) => ({ ...field, otherwise: [], together }));
    }
  return [];
}

/** The facts of a crossing as they would be if a field had another value. */
export function withAssumed(facts: CrossingFacts, { kind, id, field }: AssumedField, value: unknown): CrossingFacts {
  const put = <T extends object>(object: T): T => ({
    ...object,
    ...(field === 'latitude' ? place(facts, value as number) : { [field]: value }),
  });
  // what was read like others is not like them any more
  const fresh = { ...facts, like: undefined };
  switch (kind) {
    case 'endpoint':
      return seated({ ...fresh, endpoint: put(facts.endpoint) });
    case 'location':
      return seated({ ...fresh, location: put(facts.location) });
    case 'resource':
      return { ...fresh, resource: put(facts.resource) };
    case 'pool':
      return { ...fresh, pool: put(facts.pool) };
    case 'gateway':
      return { ...fresh, gateway: put(facts.gateway) };
    case 'region': {
      const gatewayRegion = put(facts.gatewayRegion);
      return { ...fresh, gatewayRegion, estate: { ...facts.estate, regions: new Map([...facts.estate.regions, [id, gatewayRegion]]) } };
    }
    case 'host':
      return { ...fresh, hosts: facts.hosts.map((host) => (host.id === id ? put(host) : host)) };
    default:
      return fresh;
  }
}

/** Where something may be of which it is not known: beside the gateway, or as far from it as the earth is wide. */
function place({ gatewayRegion }: CrossingFacts, far: number): { latitude: number; longitude: number } {
  const { latitude, longitude } = gatewayRegion;
  return far === 0 ? { latitude, longitude } : { latitude: -latitude, longitude: longitude > 0 ? longitude - 180 : longitude + 180 };
}

/** The line, what settings look at and the settings in force, of another endpoint or place. */
function seated(facts: CrossingFacts): CrossingFacts {
  const { endpoint, location, person, subject: before, resolved } = facts;
  const subject = subjectOf(endpoint, location, person, before.groups);
  const seat = { ...facts, line: lineOfSeat(location, endpoint), subject };
  if (!resolved || same(subject, before)) return seat;
  // a value that is tried on paper stays on paper, whatever layers would say of another device
  const [was, now] = [resolveSettings(facts.settings, before), resolveSettings(facts.settings, subject)];
  const tried = Object.entries(resolved).filter(([key, value]) => !same(value, was[key as SettingKey]));
  return { ...seat, resolved: { ...now, ...Object.fromEntries(tried) } };
}
