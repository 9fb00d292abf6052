import type {
  DrawnScene,
  BrowserFacts,
  Decoder,
  Endpoint,
  Figures,
  Location,
  Measurement,
  RoundTrips,
  Screen,
  Datagrams,
} from '@underpass/contracts';
import { distanceKm, geostationaryFloorMs, lightFloorMs, type Place } from '../link/index.js';
import { decodersFromAnswers } from '../screens/index.js';
import { dayOf, weightOf, type AgeRule } from './age.js';

/** A fact with the measurement it comes from. */
export interface Taken<T> {
  value: T;
  at: string;
  by: string;
  /** By whom and when, ready to be shown. */
  note: string;
  samples: number;
  /** Taken with this endpoint, not with another one of the place. */
  own?: boolean;
  /** Region that was measured to; undefined where it was not told. */
  target?: string | undefined;
  /** How the device that measured was connected; undefined where it was not told. */
  medium?: Measurement['medium'];
  /** Taken through a connection that sends again what is lost (the field check's WebSocket), so that none missing proves nothing. */
  sentAgain?: boolean;
  /** What it still weighs where it is old, below 1. */
  weight?: number;
}

/** What is measured for one endpoint at its location: the newest valid measurement of each fact. */
export interface Evidence {
  roundTrips?: Taken<RoundTrips>;
  addedDownMs?: Taken<number>;
  addedUpMs?: Taken<number>;
  datagrams?: Taken<Datagrams>;
  downMbps?: Taken<number>;
  upMbps?: Taken<number>;
  screens?: Taken<Screen[]>;
  decoders?: Taken<Decoder[]>;
  scene?: Taken<DrawnScene>;
  browser?: Taken<BrowserFacts>;
  /** What is plugged in, as far as a browser may see it. */
  plugged?: Taken<string[]>;
  /** When the oldest fact of the line was measured, and on which day since 1970 that was, UTC. */
  oldest?: { at: string; day: number };
  /** Measurements that cannot count, with the reason. */
  rejected: { measurement: Measurement; because: RejectedBecause }[];
}
/** Why a measurement is no evidence for the way from the desk. */
export type RejectedBecause = 'not taken at the desk' | 'below what light allows';
/** A fact that measurements settle. */
export type EvidenceFact = Exclude<keyof Evidence, 'rejected' | 'oldest'>;

const lineFacts = ['roundTrips', 'addedDownMs', 'addedUpMs', 'datagrams', 'downMbps', 'upMbps'] as const;
const endpointFacts = ['screens', 'decoders', 'scene', 'browser', 'plugged'] as const;

/** Where a way leads. */
export type FarEnd = Place & { id?: string; assumed?: readonly string[] | undefined };

/** Why a measurement is no evidence for the way from the desk, or null. */
export function rejection(measurement: Measurement, location: Location, farEnd: FarEnd | undefined): RejectedBecause | null {
  if (measurement.vantage !== 'desk') return 'not taken at the desk';
  const rtt = measurement.figures.roundTrips;
  // one that went elsewhere is held against that place where it is read
  if (!rtt || !farEnd || (measurement.target !== undefined && measurement.target !== farEnd.id)) return null;
  // where they stand is not known: no light goes by a place that is taken to be so
  if ([location, farEnd].some(({ assumed }) => assumed?.some((field) => field === 'latitude' || field === 'longitude'))) return null;
  const floor = location.lineKind === 'geo-satellite' ? geostationaryFloorMs : lightFloorMs(distanceKm(location, farEnd));
  return rtt.medianMs < floor * 0.98 ? 'below what light allows' : null;
}

function samplesOf(fact: EvidenceFact, figures: Figures): number {
  if (fact === 'roundTrips') return figures.roundTrips?.samples ?? 0;
  if (fact === 'datagrams') return figures.datagrams?.sent ?? 0;
  if (fact === 'scene') return figures.scene?.frames ?? 0;
  return 1;
}

/** Whether what was measured of a device still counts: not where the same was typed anew since. */
function stands(fact: EvidenceFact, at: string, { screensAt, decodersAt }: EvidenceEndpoint): boolean {
  const typed = fact === 'screens' ? screensAt : fact === 'decoders' ? decodersAt : undefined;
  return typed === undefined || Date.parse(at) >= Date.parse(typed);
}
/** What the choice of evidence looks at of an endpoint. */
export type EvidenceEndpoint = Pick<Endpoint, 'id' | 'screensAt' | 'decodersAt'>;

/**
 * Chooses the evidence for an endpoint. A measurement of the endpoint itself comes before one of another endpoint at the same
 * shared line; among equals the newest counts. Facts of a device count for that device only.
 * @param measurements those of the location, oldest first
 */
export function chooseEvidence(
  measurements: readonly Measurement[],
  location: Location,
  endpoint: EvidenceEndpoint,
  farEnd: FarEnd | undefined,
): Evidence {
  const evidence: Evidence = { rejected: [] };
  if (measurements.length === 0) return evidence;
  const own = new Map<EvidenceFact, boolean>();
  for (const measurement of measurements) {
    if (measurement.figures.signon && Object.keys(measurement.figures).length === 1) continue;
    const isOwn = measurement.endpoint === endpoint.id;
    if (!isOwn && location.ownLines) continue;
    const because = rejection(measurement, location, farEnd);
    if (because) {
      if (isOwn || !measurement.endpoint) evidence.rejected.push({ measurement, because });
      continue;
    }
    const note = `${measurement.by}, ${measurement.at.slice(0, 16).replace('T', ' ')}`;
    const decoders = measurement.figures.decoders ?? (measurement.figures.decodes && decodersFromAnswers(measurement.figures.decodes));
    for (const fact of [...lineFacts, ...endpointFacts]) {
      const value = fact === 'decoders' ? decoders : measurement.figures[fact];
      if (value === undefined || !stands(fact, measurement.at, endpoint)) continue;
      if (!isOwn && ((endpointFacts as readonly string[]).includes(fact) || own.get(fact))) continue;
      if (isOwn) own.set(fact, true);
      (evidence as unknown as Record<string, Taken<unknown>>)[fact] = {
        value,
        at: measurement.at,
        by: measurement.by,
        note,
        samples: samplesOf(fact, measurement.figures),
        own: isOwn,
        target: measurement.target,
        medium: measurement.medium,
        ...(fact === 'roundTrips' && measurement.method === 'field check' ? { sentAgain: true } : {}),
      };
    }
  }
  if (evidence.roundTrips && evidence.rejected.length)
    evidence.rejected = evidence.rejected.filter(({ measurement }) => measurement.at > (evidence.roundTrips?.at ?? ''));
  let oldest: string | undefined;
  for (const fact of lineFacts) {
    const at = evidence[fact]?.at;
    if (at !== undefined && (oldest === undefined || at < oldest)) oldest = at;
  }
  if (oldest !== undefined) evidence.oldest = { at: oldest, day: dayOf(Date.parse(oldest)) };
  return evidence;
}

const agedOn = new WeakMap<Evidence, { day: number; rule: AgeRule; evidence: Evidence }>();

/** The evidence as it is at an instant: what is old of the line says how much it still weighs, what weighs nothing any more is left out. */
export function evidenceAt(evidence: Evidence, atMs: number, rule: AgeRule): Evidence {
  const { oldest } = evidence;
  const day = dayOf(atMs);
  if (!oldest || day - oldest.day < rule.freshDays) return evidence;
  const known = agedOn.get(evidence);
  if (known?.day === day && known.rule === rule) return known.evidence;
  const now: Evidence = { ...evidence };
  for (const fact of lineFacts) {
    const taken = evidence[fact];
    if (!taken) continue;
    const weight = weightOf(taken.at, atMs, rule);
    if (weight === 0) delete now[fact];
    else if (weight < 1) (now as unknown as Record<string, unknown>)[fact] = { ...taken, weight };
  }
  agedOn.set(evidence, { day, rule, evidence: now });
  return now;
}
