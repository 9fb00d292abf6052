import { kindTraits } from '@underpass/contracts';
import type {
  Decoder,
  Endpoint,
  Figures,
  Gateway,
  Host,
  Layer,
  Location,
  Measurement,
  ObjectKind,
  Patch,
  Person,
  Pool,
  Region,
  Resource,
  Screen,
  SettingValue,
} from '@underpass/contracts';
import { doing, fieldsTo } from '../src/change/index.js';
import { FactsReader, type CrossingFacts } from '../src/crossing/index.js';
import { modelOf } from '../src/estate/index.js';
import type { Evidence } from '../src/evidence/index.js';
import { demoEstate, demoInstant } from './demo.js';

export const { estate, measurements } = demoEstate();
const reader = new FactsReader(modelOf(estate, measurements, { traits: kindTraits }), demoInstant);
export const base = (endpoint: string, resource: string): CrossingFacts => {
  const ref = reader.model.crossings.find((each) => each.endpoint === endpoint && each.resource === resource);
  return (ref && reader.read(ref)) as CrossingFacts;
};

/** A sound crossing of each sort: nothing is found on them, so whatever a scenario finds comes from its own fault. */
export const office = base('SAN-TC-001', 'counter');
export const home = base('CD-001', 'call-desktop');
export const dock = base('GUL-012', 'workshop');

export type Setup = (facts: CrossingFacts) => CrossingFacts;
const at = (reader: FactsReader, { ref }: CrossingFacts): CrossingFacts => reader.read(ref) as CrossingFacts;
/** The same crossing once the estate is changed. */
export const changed = (facts: CrossingFacts, ...patches: Patch[]): CrossingFacts => at(facts.reader.after(doing(...patches)), facts);
/** Fields with other values; `undefined` takes one away. */
const fields = (kind: ObjectKind, id: string, change: object): Patch =>
  fieldsTo(kind, id, Object.fromEntries(Object.entries(change).map(([field, value]) => [field, (value as unknown) ?? null])));

export const endpoint =
  (change: Partial<Endpoint>): Setup =>
  (facts) =>
    changed(facts, fields('endpoint', facts.endpoint.id, change));
export const line =
  (change: Partial<CrossingFacts['line']>): Setup =>
  (facts) =>
    facts.location.ownLines && facts.endpoint.line
      ? changed(facts, fields('endpoint', facts.endpoint.id, { line: { ...facts.endpoint.line, ...change } }))
      : changed(facts, fields('location', facts.location.id, change));
export const gateway =
  (change: Partial<Gateway>): Setup =>
  (facts) =>
    changed(facts, fields('gateway', facts.gateway.id, change));
export const location =
  (change: Partial<Location>): Setup =>
  (facts) =>
    changed(facts, fields('location', facts.location.id, change));
/** The region that the hosts of a crossing stand in. */
export const region =
  (change: Partial<Region>): Setup =>
  (facts) =>
    changed(facts, fields('region', facts.hosts[0]!.region, change));
export const pool =
  (change: Partial<Pool>): Setup =>
  (facts) =>
    changed(facts, fields('pool', facts.pool.id, change));
export const host =
  (change: Partial<Host>): Setup =>
  (facts) =>
    changed(facts, ...facts.hosts.map(({ id }) => fields('host', id, change)));
export const resource =
  (change: Partial<Resource>): Setup =>
  (facts) =>
    changed(facts, fields('resource', facts.resource.id, change));
export const person =
  (change: Partial<Person>): Setup =>
  (facts) =>
    changed(facts, fields('person', facts.person.id, change));
export const setting =
  (key: string, value: SettingValue, layer: Layer = 'endpoint', target?: string): Setup =>
  (facts) =>
    changed(facts, { do: 'setting', key, layer, target: target ?? facts.endpoint.id, value });

let measurement = 0;
/** The same crossing once something more was measured at its desk, newer than all before. */
export const measured =
  (figures: (now: Evidence) => Figures, takenAt = '2026-11-25T09:00:00Z'): Setup =>
  (facts) => {
    const { model } = facts.reader;
    const taken: Measurement = {
      id: `scene-${++measurement}`,
      at: takenAt,
      by: 'field check',
      method: 'field check',
      vantage: 'desk',
      endpoint: facts.endpoint.id,
      location: facts.location.id,
      partial: false,
      figures: figures(facts.evidence),
    };
    return at(facts.reader.over(model.after({ measurements: [taken] })), facts);
  };
/** The same crossing in an estate in which nothing was ever measured at its location. */
export const unmeasured: Setup = (facts) =>
  at(
    new FactsReader(
      modelOf(
        estate,
        measurements.filter(({ location }) => location !== facts.location.id),
        { traits: kindTraits },
      ),
      demoInstant,
    ),
    facts,
  );
export const screen = (more: Partial<Screen> = {}): Screen => ({ widthPx: 1920, heightPx: 1080, refreshHz: 60, scale: 1, ...more });
export const screens = (...list: Partial<Screen>[]): Setup => endpoint({ screens: list.map(screen) });
export const h264: Decoder = { codec: 'h264', level: '5.2', chroma444: false };
export const trips = (change: object): Setup => measured((now) => ({ roundTrips: { ...now.roundTrips!.value, ...change, samples: 120 } }));
/** A crossing in a browser. */
export const inBrowser = base('OS-007', 'guest-plans');
/** The field check's scene, drawn by the processor. */
export const drawn = (averageFps: number, low1Fps: number): Setup =>
  measured(() => ({ scene: { renderer: 'software', drawnBy: 'processor' as const, frames: 900, averageFps, low1Fps } }));
/** So many of a thousand datagrams lost. */
export const lost = (of1000: number): Setup => measured(() => ({ datagrams: { passes: true, sent: 1000, lost: of1000 } }));
/** Round trips that keep close to their median. */
export const steady = (medianMs: number, p95Ms = medianMs + 2): Setup =>
  trips({ medianMs, medianLowMs: medianMs - 1, medianHighMs: medianMs + 1, p95Ms });

export const certificate =
  (change: object): Setup =>
  (facts) =>
    gateway({ certificate: { ...facts.gateway.certificate!, ...change } })(facts);
export const all =
  (...setups: Setup[]): Setup =>
  (facts) =>
    setups.reduce((now, setup) => setup(now), facts);
export const none: Setup = (facts) => facts;

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
