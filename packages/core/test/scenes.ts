import type { Decoder, Endpoint, Gateway, Host, Pool, Resource, Screen, SettingValue } from '@underpass/contracts';
import { FactsReader, withChange, type CrossingFacts } from '../src/crossing/index.js';
import { modelOf } from '../src/estate/index.js';
import type { Evidence } from '../src/evidence/index.js';
import { demoEstate, demoInstant } from './demo.js';

export const { estate, measurements } = demoEstate();
const reader = new FactsReader(modelOf(estate, measurements), demoInstant);
export const base = (endpoint: string, resource: string): CrossingFacts => {
  const ref = reader.model.crossings.find((each) => each.endpoint === endpoint && each.resource === resource);
  return (ref && reader.read(ref)) as CrossingFacts;
};

/** A sound crossing of each sort: nothing is found on them, so whatever a scenario finds comes from its own fault. */
export const office = base('SAN-TC-001', 'counter');
export const home = base('CD-001', 'call-desktop');
export const dock = base('GUL-012', 'workshop');

type Setup = (facts: CrossingFacts) => CrossingFacts;
export const endpoint =
  (change: Partial<Endpoint>): Setup =>
  (facts) => ({
    ...facts,
    endpoint: { ...facts.endpoint, ...change },
    subject: { ...facts.subject, clientKind: change.clientKind ?? facts.subject.clientKind },
  });
export const line =
  (change: Partial<CrossingFacts['line']>): Setup =>
  (facts) => ({ ...facts, line: { ...facts.line, ...change } });
export const gateway =
  (change: Partial<Gateway>): Setup =>
  (facts) => ({ ...facts, gateway: { ...facts.gateway, ...change } });
export const pool =
  (change: Partial<Pool>): Setup =>
  (facts) => ({ ...facts, pool: { ...facts.pool, ...change } });
export const host =
  (change: Partial<Host>): Setup =>
  (facts) => ({ ...facts, hosts: facts.hosts.map((each) => ({ ...each, ...change })) });
export const resource =
  (change: Partial<Resource>): Setup =>
  (facts) => ({ ...facts, resource: { ...facts.resource, ...change } });
export const setting =
  (key: string, value: SettingValue, layer: 'endpoint' | 'organisation' = 'endpoint', target?: string): Setup =>
  (facts) =>
    withChange(facts, [{ type: 'setting', key: key as 'picture.frameCap', layer, target: target ?? facts.endpoint.id, value }]);
export const evidence =
  (change: (now: Evidence) => Partial<Evidence>): Setup =>
  (facts) => ({ ...facts, evidence: { ...facts.evidence, ...change(facts.evidence) } });
export const taken = <T>(value: T) => ({ value, at: '2026-11-20T08:00:00Z', by: 'field check', note: 'field check', samples: 200 });
export const screen = (more: Partial<Screen> = {}): Screen => ({ widthPx: 1920, heightPx: 1080, refreshHz: 60, scale: 1, ...more });
export const screens = (...list: Partial<Screen>[]): Setup => endpoint({ screens: list.map(screen) });
export const h264: Decoder = { codec: 'h264', level: '5.2', chroma444: false };
export const trips = (change: object): Setup =>
  evidence((now) => ({ roundTrips: { ...taken({ ...now.roundTrips!.value, ...change }), samples: 120 } }));
export const certificate =
  (change: object): Setup =>
  (facts) =>
    gateway({ certificate: { ...facts.gateway.certificate!, ...change } })(facts);
export const all =
  (...setups: Setup[]): Setup =>
  (facts) =>
    setups.reduce((now, setup) => setup(now), facts);
export const none: Setup = (facts) => facts;
export const { regions } = reader.model;

/** A crossing with a fault made on it, and what must be said of it. */
export interface Scenario {
  kind: string;
  from: CrossingFacts;
  make: Setup;
  /** What the sentence must say: the figures of the fault itself. */
  says: RegExp;
  /** A remedy whose effect must be computed, and the verdict it leads to. */
  mended?: [text: RegExp, verdict: string];
}
