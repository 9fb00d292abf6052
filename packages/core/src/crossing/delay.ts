import type { Bay, Host } from '@underpass/contracts';
import { distanceKm, pathMs } from '../link/index.js';
import type { Demand } from '../picture/index.js';
import type { Estimate } from '../units/index.js';
import type { SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import { shippedAssumed } from '../assumed/index.js';
import type { Frames } from './frames.js';
import type { Session } from './session.js';
import type { Way } from './way.js';
import { passesGateway, tunnelledOf, tunnelMs } from './wayIn.js';

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
  /** Made where they are looked at. */
  readonly parts: readonly DelayPart[];
  /** On average in the busy hour. */
  value: number;
  low: number;
  high: number;
  /** In the worst twentieth: with how far the way varies, and all that is sent again then. */
  worst: { value: number; low: number; high: number };
  /** While the line is idle: without what its load adds. */
  idleMs: number;
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
  let value = 0;
  let low = 0;
  let high = 0;
  const given: Budgeted = { facts, s, session, host, demand, way, frames };
  const detourMs = budget(given, (_name, _bay, ms, _source, lowMs = ms, highMs = ms) => {
    value += ms;
    low += lowMs;
    high += highMs;
  });
  const { resentMs, resentWorstMs } = frames;
  const worst = {
    value: value + way.spreadMs.value + resentWorstMs.value - resentMs.value,
    low: low + way.spreadMs.low + resentWorstMs.low - resentMs.low,
    high: high + way.spreadMs.high + resentWorstMs.high - resentMs.high,
  };
  return new Budget(given, value, low, high, worst, value - Math.max(0, way.busyMs.value), detourMs);
}

/** What the budget is made from. */
interface Budgeted {
  facts: CrossingFacts;
  s: SettingValues;
  session: Session;
  host: Host | undefined;
  demand: Demand;
  way: Way;
  frames: Frames;
}
type Add = (name: string, bay: Bay, ms: number, source: DelayPart['source'], lowMs?: number, highMs?: number) => void;

/** The sums at once, the parts where somebody looks: a whole estate is evaluated without them. */
class Budget implements Delay {
  readonly #given: Budgeted;
  #list: readonly DelayPart[] | null = null;

  constructor(
    given: Budgeted,
    readonly value: number,
    readonly low: number,
    readonly high: number,
    readonly worst: Delay['worst'],
    readonly idleMs: number,
    readonly detourMs: number,
  ) {
    this.#given = given;
  }

  get parts(): readonly DelayPart[] {
    if (this.#list) return this.#list;
    const list: DelayPart[] = [];
    budget(this.#given, (name, bay, ms, source, lowMs = ms, highMs = ms) => {
      if (ms > 0 || highMs > 0) list.push({ name, bay, ms, lowMs, highMs, source });
    });
    return (this.#list = list);
  }
}

/** What stands around the way in every session, ms: common practice and from memory, no source; the frame's own parts come from the host. */
const fixedMs = {
  keyboard: 4,
  panel: 5,
  handling: { browser: 6, native: 2 },
  hardwareDecode: 4,
  gateway: 2,
  capture: 2,
  answers: { app: 8, desktop: 10 },
} as const;
/** Refresh of a screen that tells none. */
const usualRefreshHz = 60;

/** How long packets wait to come evenly, ms: twice the jitter, 40 at most; common practice, no source. */
const jitterBufferMs = (jitterMs: number): number => Math.min(40, 2 * jitterMs);

/**
 * What a session adds around a way of which nothing else is known, ms: in an installed program with a card that encodes and draws quickly,
 * and in a browser with the encoder and the drawing that are usual.
 */
export function around(jitterMs: number, framesAtLeast: number): { leastMs: number; usualMs: number } {
  const both =
    fixedMs.keyboard + 1000 / usualRefreshHz + fixedMs.panel + jitterBufferMs(jitterMs) + fixedMs.hardwareDecode + fixedMs.capture;
  // whoever checks a line knows no estate
  const { host } = shippedAssumed;
  const waitMs = (fps: number) => 500 / fps;
  return {
    leastMs:
      both +
      fixedMs.handling.native +
      waitMs(Math.max(usualRefreshHz, framesAtLeast)) +
      host.drawMs / 2 +
      host.cardMs / 2 +
      fixedMs.answers.app,
    usualMs:
      both + fixedMs.handling.browser + fixedMs.gateway + waitMs(framesAtLeast) + host.drawMs + host.processorMs + fixedMs.answers.desktop,
  };
}

/** Adds part by part. @returns the detour by the gateway, ms */
function budget({ facts, s, session, host, demand, way, frames }: Budgeted, add: Add): number {
  const refresh = session.screens[0]?.refreshHz ?? usualRefreshHz;
  // where nobody told of a screen, the one that is taken instead has a refresh too
  const screenKnown = session.native !== null && session.screens[0]?.refreshHz != null;
  const screenSource = screenKnown
    ? facts.evidence.screens
      ? 'measured'
      : facts.endpoint.reportedAt
        ? 'reported'
        : 'declared'
    : 'assumed';
  add('keyboard poll', 'Desk', fixedMs.keyboard, 'assumed');
  add('wait for the screen and scan-out', 'Desk', 1000 / refresh, screenSource);
  add('panel', 'Desk', fixedMs.panel, 'assumed');
  const browser = facts.endpoint.clientKind === 'browser';
  add('client handling', 'Endpoint', browser ? fixedMs.handling.browser : fixedMs.handling.native, 'assumed');
  const jitter = way.jitterMs ?? 2;
  add('jitter buffer', 'Endpoint', jitterBufferMs(jitter), way.jitterMs === null ? 'assumed' : 'measured');
  const decodeMs =
    frames.decoding.by === 'hardware' ? fixedMs.hardwareDecode : Math.min(60, (session.macroblocks / frames.decoding.processor) * 1000);
  add('decode', 'Endpoint', decodeMs, 'assumed', frames.decoding.by === 'not known' ? fixedMs.hardwareDecode : decodeMs);
  add('local network', 'Local network', way.localMs.value, way.localMs.source, way.localMs.low, way.localMs.high);
  // The measured round trip starts at the endpoint: its idle local part is inside it already.
  add('round trip', 'Link', way.rtt.value, way.rtt.source, way.rtt.low, way.rtt.high);
  add('sent again after loss', 'Link', frames.resentMs.value, way.loss.source, frames.resentMs.low, frames.resentMs.high);
  add('load of the line', 'Link', way.busyMs.value, way.busyMs.source, way.busyMs.low, way.busyMs.high);
  const { available } = way;
  if (available) {
    const sending = (mbps: number) =>
      Math.min(400, ((demand.meanMbps * frames.quality) / Math.max(1, frames.cap) / Math.max(0.001, mbps)) * 1000);
    add(
      'sending the changed area',
      'Link',
      sending(available.value),
      available.source === 'measured' ? 'measured' : 'computed',
      sending(available.high),
      sending(available.low),
    );
  }
  const past = passesGateway(facts, s);
  const { ms, detourMs } = pathToHost(facts, host, past || !facts.location.inside);
  add('gateway', 'Gateway', past ? 0 : fixedMs.gateway, 'assumed');
  if (tunnelledOf(s, facts.endpoint).session) add('tunnel', 'Gateway', 2 * tunnelMs, 'assumed');
  // cables take detours: between two thirds and four thirds of what is usual
  add('way to the host', 'Gateway', ms, 'assumed', ms > 1 ? (ms * 2) / 3 : ms, ms > 1 ? (ms * 4) / 3 : ms);
  const waitMs = 500 / Math.max(0.5, frames.value);
  const soonestMs = 500 / Math.max(0.5, frames.high);
  // a frame rate that is not known at all would make the wait endless: below 2 frames it is broken anyhow
  add('wait for the next frame', 'Host', waitMs, 'computed', soonestMs, Math.max(waitMs, 500 / Math.max(2, frames.low)));
  const told = host?.reportedAt ? 'reported' : 'declared';
  const drawSpreadMs = frames.drawAssumed ? frames.drawMs / 2 : 0;
  const draw = frames.drawMs + fixedMs.capture;
  add('draw and capture', 'Host', draw, frames.drawAssumed ? 'assumed' : told, draw - drawSpreadMs, draw + drawSpreadMs);
  const { ms: encodeMs, spreadMs: encodeSpreadMs, assumed: encodeAssumed } = frames.encoding;
  add('encode', 'Host', encodeMs, encodeAssumed ? 'assumed' : told, encodeMs - encodeSpreadMs, encodeMs + encodeSpreadMs);
  add('application answers', 'Workspace', facts.resource.kind === 'app' ? fixedMs.answers.app : fixedMs.answers.desktop, 'assumed');
  return detourMs;
}
