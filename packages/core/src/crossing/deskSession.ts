import type { ClientKind, Endpoint, Gateway, Resource, Screen } from '@underpass/contracts';
import type { Evidence } from '../evidence/index.js';
import type { Demand } from '../picture/index.js';
import type { SettingValues } from '../settings/index.js';
import { demandOf } from './demandOf.js';
import { sessionOf, type Session } from './session.js';

/** What a session gets of the screens on a desk with one kind of client. */
export interface DeskSession extends Pick<Session, 'left' | 'leftBecause' | 'pixelsOf' | 'shrunk' | 'mixedScales' | 'codec'> {
  clientKind: ClientKind;
  /** Sizes in px as the session fills them, in the order of the screens that show something of their own. */
  screens: { widthPx: number; heightPx: number; refreshHz: number | null }[];
  pixels: number;
  /** What its picture asks of the line; null where nobody says what is worked in. */
  demand: Pick<Demand, 'meanMbps' | 'p95Mbps'> | null;
}

/** Where a session would go, and what is worked in there. */
export interface DeskFacts {
  endpoint: Endpoint;
  gateway: Gateway;
  resource: Resource | null;
}

/** Nothing measured counts: the screens are those that are asked about. */
const nothingMeasured: Evidence = { rejected: [] };

/** What a session with a kind of client gets of an arrangement, by the settings in force and the limits of client, device and gateway. */
export function deskSession(
  { endpoint, gateway, resource }: DeskFacts,
  s: SettingValues,
  clientKind: ClientKind,
  screens: readonly Screen[],
): DeskSession {
  const facts = { endpoint: { ...endpoint, clientKind, screens: [...screens] }, gateway, evidence: nothingMeasured };
  const session = sessionOf(facts, s);
  const { left, leftBecause, pixelsOf, shrunk, mixedScales, codec, activePixels, idlePixels } = session;
  const demand = resource && demandOf({ ...facts, resource }, s, session);
  return {
    ...{ clientKind, left, leftBecause, pixelsOf, shrunk, mixedScales, codec },
    screens: session.screens.map(({ widthPx, heightPx, refreshHz }) => ({ widthPx, heightPx, refreshHz })),
    pixels: activePixels + idlePixels,
    demand: demand && { meanMbps: demand.meanMbps, p95Mbps: demand.p95Mbps },
  };
}
