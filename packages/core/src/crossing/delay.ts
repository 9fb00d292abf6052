import type { Bay, Host } from '@underpass/contracts';
import { distanceKm, pathMs } from '../link/index.js';
import type { Demand } from '../picture/index.js';
import type { Estimate } from '../units/index.js';
import type { SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import type { Frames } from './frames.js';
import type { Session } from './session.js';
import type { Way } from './way.js';

/** One part of the time from key press to changed pixel, ms, with its interval and where it comes from. */
export interface DelayPart {
  name: string;
  bay: Bay;
  ms: number;
  lowMs: number;
  highMs: number;
  source: Estimate['source'];
}

/** Key press to changed pixel, ms: the parts and their sums. */
export interface Delay {
  parts: DelayPart[];
  value: number;
  low: number;
  high: number;
  /** Parts of the detour by the gateway where a direct path is there. */
  detourMs: number;
}

/** Host region by region: round trip to expect from the gateway or straight from the location. */
function pathToHost(facts: CrossingFacts, host: Host | undefined, bypass: boolean): { ms: number; detourMs: number } {
  const region = host && facts.estate.regions.get(host.region);
  if (!region) return { ms: 0, detourMs: 0 };
  const behind = region.id === facts.gatewayRegion.id ? 0.5 : pathMs(distanceKm(facts.gatewayRegion, region));
  if (!facts.location.inside) return { ms: behind, detourMs: 0 };
  const toGateway = pathMs(distanceKm(facts.location, facts.gatewayRegion));
  const direct = pathMs(distanceKm(facts.location, region));
  const detourMs = Math.max(0, toGateway + behind + 2 - direct);
  // The measured way goes to the gateway's site; the direct path differs from it by the two distances.
  return bypass ? { ms: Math.max(0, direct - toGateway), detourMs: 0 } : { ms: behind + 2, detourMs };
}

/** The budget from key press to changed pixel, part by part; the sum of the parts is the total, always. */
export function delayOf(
  facts: CrossingFacts,
  s: SettingValues,
  session: Session,
  host: Host | undefined,
  demand: Demand,
  way: Way,
  frames: Frames,
): Delay {
  const parts: DelayPart[] = [];
  let value = 0;
  let low = 0;
  let high = 0;
  const add = (name: string, bay: Bay, ms: number, source: DelayPart['source'], lowMs = ms, highMs = ms) => {
    if (ms <= 0 && highMs <= 0) return;
    parts.push({ name, bay, ms, lowMs, highMs, source });
    value += ms;
    low += lowMs;
    high += highMs;
  };
  const refresh = session.screens[0]?.refreshHz ?? 60;
  const screenKnown = session.screens[0]?.refreshHz != null;
  const screenSource = screenKnown
    ? facts.evidence.screens
      ? 'measured'
      : facts.endpoint.reportedAt
        ? 'reported'
        : 'declared'
    : 'assumed';
  add('keyboard poll', 'Desk', 4, 'assumed');
  add('wait for the screen and scan-out', 'Desk', 1000 / refresh, screenSource);
  add('panel', 'Desk', 5, 'assumed');
  const browser = facts.endpoint.clientKind === 'browser';
  add('client handling', 'Endpoint', browser ? 6 : 2, 'assumed');
  const jitter = way.jitterMs ?? 2;
  add('jitter buffer', 'Endpoint', Math.min(40, 2 * jitter), way.jitterMs === null ? 'assumed' : 'measured');
  const decodeMs = frames.decoding.by === 'hardware' ? 4 : Math.min(60, (session.macroblocks / frames.decoding.processor) * 1000);
  add('decode', 'Endpoint', decodeMs, 'assumed', frames.decoding.by === 'not known' ? 4 : decodeMs);
  add('local network', 'Local network', way.localMs.value, way.localMs.source, way.localMs.low, way.localMs.high);
  // The measured round trip starts at the endpoint: its idle local part is inside it already.
  add('round trip', 'Link', way.rtt.value, way.rtt.source, way.rtt.low, way.rtt.high);
  const available = way.available?.value ?? null;
  if (available !== null)
    add(
      'sending the changed area',
      'Link',
      Math.min(400, ((demand.meanMbps * frames.quality) / Math.max(1, frames.cap) / available) * 1000),
      way.available?.source === 'measured' ? 'measured' : 'computed',
    );
  const { ms, detourMs } = pathToHost(facts, host, s['transport.gatewayBypass'] || !facts.location.inside);
  add('gateway', 'Gateway', facts.location.inside && s['transport.gatewayBypass'] ? 0 : 2, 'assumed');
  add('way to the host', 'Gateway', ms, 'assumed');
  const waitMs = 500 / Math.max(0.5, frames.value);
  // a frame rate that is not known at all would make the wait endless: below 2 frames it is broken anyhow
  add('wait for the next frame', 'Host', waitMs, 'computed', waitMs, Math.max(waitMs, 500 / Math.max(2, frames.low)));
  add('draw and capture', 'Host', frames.drawMs + 2, frames.drawAssumed ? 'assumed' : facts.hosts[0]?.reportedAt ? 'reported' : 'declared');
  add('encode', 'Host', frames.encoding.ms, frames.encoding.assumed ? 'assumed' : 'reported');
  add('application answers', 'Workspace', facts.resource.kind === 'app' ? 8 : 10, 'assumed');
  return { parts, value, low, high, detourMs };
}
