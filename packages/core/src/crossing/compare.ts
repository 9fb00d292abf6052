import type { Endpoint } from '@underpass/contracts';
import { settingKeys } from '../settings/index.js';
import { burden } from './effect.js';
import { settingsOf, type CrossingFacts } from './facts.js';
import { computeFigures } from './figures.js';

/** Something that is otherwise on two crossings, and how much of the difference between them it explains. */
export interface CrossingDifference {
  /** What it is, from where it is read. @example line.downMbps */
  fact: string;
  a: unknown;
  b: unknown;
  /** Share of the difference in burden that goes when this one of `b` stands in place of that of `a`; 0 where they are as far from what is wanted. */
  explains: number;
}

/** A part of the facts: where it is read, and how the facts are with another one. */
interface Part {
  fact: string;
  of: (facts: CrossingFacts) => unknown;
  with: (facts: CrossingFacts, from: CrossingFacts) => CrossingFacts;
}

/** Names, ids, what refers to another object, and when something was told: none of it makes a crossing what it is. */
const none = new Set([
  'id',
  'name',
  'area',
  'location',
  'person',
  'users',
  'pool',
  'gateway',
  'region',
  'groups',
  'address',
  'addressRange',
  'wifi',
  'reportedAt',
  'screensAt',
  'decodersAt',
  'latitude',
  'longitude',
]);
const field = (object: object | undefined, key: string): unknown => (object as Record<string, unknown> | undefined)?.[key];
const keysOf = (a: object, b: object): string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((key) => !none.has(key));
const withField = <T extends object>(object: T, key: string, value: unknown): T => {
  const next: Record<string, unknown> = { ...object, [key]: value };
  if (value === undefined) delete next[key];
  return next as T;
};

/** Every field of one object of the facts. */
const fieldsOf = (name: 'endpoint' | 'resource' | 'pool' | 'gateway' | 'person', a: CrossingFacts, b: CrossingFacts): Part[] =>
  keysOf(a[name], b[name])
    .filter((key) => (name !== 'endpoint' || key !== 'line') && (name !== 'gateway' || key !== 'certificate'))
    .map((key) => ({
      fact: `${name}.${key}`,
      of: (facts) => field(facts[name], key),
      with: (facts, from) => ({ ...facts, [name]: withField(facts[name], key, field(from[name], key)) }),
    }));

/** A certificate is good for an address: with another gateway's alone neither would be. */
const ofCertificate: Part = {
  fact: 'gateway.certificate',
  of: ({ gateway: { address, certificate } }) => ({ address, ...certificate }),
  with: (facts, { gateway: { address, certificate } }) => ({ ...facts, gateway: { ...facts.gateway, address, certificate } }),
};

const lineKeys = ['lineKind', 'downMbps', 'upMbps', 'delayMs', 'metered'] as const;
/** The line in use, whoever it belongs to: an endpoint’s own or the location’s. */
const ofLine: readonly Part[] = lineKeys.map((key) => ({
  fact: `line.${key}`,
  of: ({ line }) => line[key],
  with: (facts, from) => {
    const line = withField(facts.line, key, from.line[key]);
    if (facts.line === (facts.location as object)) return { ...facts, line, location: withField(facts.location, key, from.line[key]) };
    return { ...facts, line, endpoint: { ...facts.endpoint, line } as Endpoint };
  },
}));

const placeKeys = (a: CrossingFacts, b: CrossingFacts): string[] =>
  keysOf(a.location, b.location).filter((key) => !(lineKeys as readonly string[]).includes(key));
const ofPlace = (a: CrossingFacts, b: CrossingFacts): Part[] => [
  ...placeKeys(a, b).map((key): Part => ({
    fact: `location.${key}`,
    of: ({ location }) => field(location, key),
    with: (facts, from) => ({ ...facts, location: withField(facts.location, key, field(from.location, key)) }),
  })),
  {
    fact: 'location.position',
    of: ({ location: { latitude, longitude } }) => [latitude, longitude],
    with: (facts, { location: { latitude, longitude } }) => ({ ...facts, location: { ...facts.location, latitude, longitude } }),
  },
  {
    fact: 'gateway.position',
    of: ({ gatewayRegion: { latitude, longitude } }) => [latitude, longitude],
    with: (facts, { gatewayRegion }) => ({ ...facts, gatewayRegion }),
  },
];

/** What is measured, each kind of measurement by itself. */
const ofEvidence = (a: CrossingFacts, b: CrossingFacts): Part[] =>
  keysOf(a.evidence, b.evidence)
    .filter((key) => key !== 'rejected' && key !== 'oldest')
    .map((key) => ({
      fact: `measured.${key}`,
      of: ({ evidence }) => {
        const taken = field(evidence, key) as { value?: unknown } | undefined;
        return taken?.value;
      },
      with: (facts, from) => ({ ...facts, evidence: withField(facts.evidence, key, field(from.evidence, key)) }),
    }));

const ofSettings: readonly Part[] = settingKeys.map((key) => ({
  fact: key,
  of: (facts) => settingsOf(facts)[key],
  with: (facts, from) => ({ ...facts, resolved: { ...settingsOf(facts), [key]: settingsOf(from)[key] } }),
}));

/** What is known of the way as a whole, and none of its parts by itself. */
const whole: readonly Part[] = [
  {
    fact: 'others on the line',
    of: ({ others: { count, meanMbps } }) => ({ people: count, meanMbps }),
    with: (facts, { others }) => ({ ...facts, others }),
  },
  {
    fact: 'hosts',
    of: ({ hosts }) => hosts.map(({ id: _id, name: _name, pool: _pool, reportedAt: _at, installed: _installed, ...rest }) => rest),
    with: (facts, { hosts }) => ({ ...facts, hosts }),
  },
  {
    fact: 'devices in full',
    of: ({ devices }) => devices.map(({ id: _id, name: _name, endpoint: _endpoint, ...rest }) => rest),
    with: (facts, { devices }) => ({ ...facts, devices }),
  },
  { fact: 'entitled', of: ({ entitled }) => entitled, with: (facts, { entitled }) => ({ ...facts, entitled }) },
  {
    fact: 'published at a portal',
    of: ({ portal }) => portal !== undefined,
    with: (facts, { portal, publication }) => ({ ...facts, portal, publication }),
  },
  { fact: 'timed sign-on', of: ({ timed }) => timed?.value, with: (facts, { timed }) => ({ ...facts, timed }) },
  { fact: 'sessions elsewhere', of: ({ elsewhere }) => elsewhere.length, with: (facts, { elsewhere }) => ({ ...facts, elsewhere }) },
];

/** Figures that differ by less are the same. */
const slack = 1e-9;
const burdenOf = (facts: CrossingFacts): number => burden(computeFigures({ ...facts, like: undefined }));

/**
 * Why it works for one and not for another: every fact that is otherwise on two crossings, by how much of the difference in burden goes when that
 * one fact of `b` stands in place of that of `a`, all else as it is. Two facts that only together make a difference each explain little.
 * @returns those that explain most first, then by name
 */
export function compareCrossings(a: CrossingFacts, b: CrossingFacts): CrossingDifference[] {
  const [own, other] = [burdenOf(a), burdenOf(b)];
  const parts = [
    ...(['endpoint', 'resource', 'pool', 'gateway', 'person'] as const).flatMap((name) => fieldsOf(name, a, b)),
    ofCertificate,
    ...ofLine,
    ...ofPlace(a, b),
    ...ofEvidence(a, b),
    ...ofSettings,
    ...whole,
  ];
  const found = parts.flatMap((part): CrossingDifference[] => {
    const [mine, theirs] = [part.of(a), part.of(b)];
    if (JSON.stringify(mine) === JSON.stringify(theirs)) return [];
    const share = Math.abs(own - other) < slack ? 0 : (own - burdenOf(part.with(a, b))) / (own - other);
    return [{ fact: part.fact, a: mine ?? null, b: theirs ?? null, explains: Math.min(1, Math.max(0, share)) }];
  });
  return found.sort((x, y) => y.explains - x.explains || (x.fact < y.fact ? -1 : 1));
}
