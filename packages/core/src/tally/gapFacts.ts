import type { Host, ObjectKind } from '@underpass/contracts';
import type { CrossingFacts, CrossingFigures, Missing } from '../crossing/index.js';

/** How well something is known. */
export type Known = 'measured' | 'reported' | 'declared' | 'assumed' | 'notKnown';
/** The ways in which something can be known, the best first. */
export const knownWays: readonly Known[] = ['measured', 'reported', 'declared', 'assumed', 'notKnown'];

/** A fact of the things that a crossing passes, under the name its schema has for it. */
export interface FactRead {
  kind: ObjectKind;
  field: string;
  /** The things it is a fact of on a crossing, and how it is known of each. */
  of: (facts: CrossingFacts, figures: CrossingFigures) => readonly (readonly [thing: string, known: Known])[];
  /** What an evaluation calls it where it decides and is not known closely enough. */
  missing: readonly Missing[];
}

/** The line out: of a place, or of each endpoint where each has its own. */
export const lineOf = ({ location, endpoint }: Pick<CrossingFacts, 'location' | 'endpoint'>): string =>
  location.ownLines ? `${location.id}\n${endpoint.id}` : location.id;

const sourceOf = (source: string | undefined): Known =>
  source === undefined ? 'notKnown' : source === 'measured' || source === 'reported' || source === 'declared' ? source : 'assumed';
/** What stands in an object that machines may report. */
const said = (value: unknown, reportedAt?: string): Known => (value === undefined ? 'notKnown' : reportedAt ? 'reported' : 'declared');

const ofLine = (field: string, missing: Missing, known: (figures: CrossingFigures) => Known): FactRead => ({
  ...{ kind: 'location', field, missing: [missing] },
  of: (facts, figures) => [[lineOf(facts), known(figures)]],
});
const ofEndpoint = (field: 'clientVersion' | 'memoryMB' | 'connection', missing: readonly Missing[]): FactRead => ({
  ...{ kind: 'endpoint', field, missing },
  of: ({ endpoint }) => [[endpoint.id, said(endpoint[field], endpoint.reportedAt)]],
});
const measuredOfEndpoint = (field: 'screens' | 'decoders'): FactRead => ({
  ...{ kind: 'endpoint', field, missing: [field] },
  of: ({ endpoint, evidence }) => [[endpoint.id, evidence[field] ? 'measured' : said(endpoint[field], endpoint.reportedAt)]],
});
const ofGateway = (field: 'certificate' | 'tlsHighest' | 'udp', missing: readonly Missing[]): FactRead => ({
  ...{ kind: 'gateway', field, missing },
  of: ({ gateway }) => [[gateway.id, said(gateway[field])]],
});
const ofHosts = (field: keyof Host & ('power' | 'used' | 'graphics' | 'drawMs'), missing: Missing): FactRead => ({
  ...{ kind: 'host', field, missing: [missing] },
  of: ({ hosts }) => hosts.map((host) => [host.id, said(host[field], host.reportedAt)] as const),
});

/** Facts on which verdicts rest, each with where it is read. */
export const factsRead: readonly FactRead[] = [
  ofLine('delayMs', 'round trips', ({ way }) => sourceOf(way.rtt.source)),
  {
    ...{ kind: 'location', field: 'reach', missing: ['reach of the gateway'] },
    of: (facts) => [[lineOf(facts), facts.evidence.roundTrips ? 'measured' : 'notKnown']],
  },
  ofLine('downMbps', 'line rate', ({ way }) => sourceOf(way.down?.source)),
  ofLine('upMbps', 'rate upwards', ({ way }) => sourceOf(way.up?.source)),
  ofLine('loss', 'loss', ({ way }) => (way.lossKnown ? sourceOf(way.loss.source) : 'assumed')),
  {
    ...{ kind: 'location', field: 'activeShare', missing: ['people at once'] },
    of: ({ location }) => (location.ownLines ? [] : [[location.id, location.activeShare === undefined ? 'assumed' : 'declared']]),
  },
  measuredOfEndpoint('screens'),
  measuredOfEndpoint('decoders'),
  ofEndpoint('clientVersion', ['client version']),
  ofEndpoint('memoryMB', []),
  ofEndpoint('connection', []),
  {
    ...{ kind: 'endpoint', field: 'wifiSignalDbm', missing: ['Wi-Fi signal'] },
    of: ({ endpoint }) => (endpoint.connection === 'wifi' ? [[endpoint.id, said(endpoint.wifiSignalDbm, endpoint.reportedAt)]] : []),
  },
  ofGateway('certificate', ['certificate']),
  ofGateway('tlsHighest', ['TLS of the gateway']),
  ofGateway('udp', []),
  ofHosts('power', 'power of the hosts'),
  ofHosts('used', 'places of the hosts'),
  ofHosts('graphics', 'graphics of the host'),
  ofHosts('drawMs', 'host figures'),
];
