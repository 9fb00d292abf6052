import type { Peripheral, UsbSpeed } from '@underpass/contracts';
import { functionCodes, sortOf, type CarriedAs } from '../redirection/index.js';
import type { SettingValues } from '../settings/index.js';
import { callMbps } from '../voice/index.js';
import { cameraMbpsOf, rawCameraMbps } from './camera.js';
import type { CrossingFacts } from './facts.js';

/** What carrying a device asks of the line, and what its questions and answers wait. */
export interface CarryCosts {
  /** Asked of the line while it works, Mbit/s; null where nobody knows. */
  mbps: number | null;
  /** Added to one job of it, ms: each question and answer takes a round trip. Null where the round trip is not known. */
  addedMs: number | null;
  /** Questions and answers of one job. */
  exchanges: number;
  /** Most that it bears of delay there and back, ms. */
  bearsMs: number | null;
}
const nothing: CarryCosts = { mbps: 0, addedMs: 0, exchanges: 0, bearsMs: null };

/** What a bus carries in even time at most, Mbit/s [USB 2.0 §5.6.3, table 5-5 and the largest packets each microframe: 3 × 1024 bytes; 1023 bytes each frame]. */
const busMbps: Readonly<Record<UsbSpeed, number>> = { low: 0, full: 8.184, high: 196.608, super: 3000 };
/** Sound uncoded: 48 000 samples of 16 bit, two to the ear and one from the mouth. */
const rawSoundMbps = (48_000 * 16 * 3) / 1e6;
/** A raw camera of which nothing is known shows 720 lines, 30 times a second. */
const usualCamera = { height: 720, fps: 30 };

function rawMbps(device: Peripheral): number | null {
  if (device.isochronousMbps !== undefined) return device.isochronousMbps;
  const kinds = functionCodes(device).map(({ class: code }) => code);
  // a bus carries no more than it does, whatever a picture would have
  if (kinds.includes('0e')) return Math.min(busMbps[device.speed ?? 'high'], rawCameraMbps(usualCamera.height, usualCamera.fps));
  if (kinds.includes('01')) return rawSoundMbps;
  return 0;
}
function channelMbps(device: Peripheral, s: SettingValues, endpoint: CrossingFacts['endpoint']): number {
  const kinds = new Set(functionCodes(device).map((codes) => sortOf(codes).kind));
  return (kinds.has('headset') ? callMbps : 0) + (kinds.has('camera') ? cameraMbpsOf(s, endpoint) : 0);
}

/** What carrying a device costs on the way of a crossing. @param rttMs null where it is not known */
export function carryCosts(
  device: Peripheral,
  decision: CarriedAs,
  { s, endpoint, rttMs }: { s: SettingValues; endpoint: CrossingFacts['endpoint']; rttMs: number | null },
): CarryCosts {
  if (decision === 'local only' || decision === 'not allowed' || decision === 'session input') return nothing;
  const sorts = functionCodes(device).map(sortOf);
  const isRaw = decision === 'raw USB';
  const chatty = Math.max(0, ...sorts.map(({ exchanges = 0 }) => exchanges));
  // what a channel carries is asked and answered on the far side, but for cards
  const exchanges = isRaw
    ? (device.exchanges ?? (chatty || 1))
    : sorts.some(({ kind }) => kind === 'card-reader')
      ? (device.exchanges ?? chatty)
      : 0;
  const bears = sorts.flatMap(({ bearsMs }) => bearsMs ?? []);
  return {
    mbps: isRaw ? rawMbps(device) : channelMbps(device, s, endpoint),
    addedMs: exchanges === 0 ? 0 : rttMs === null ? null : exchanges * rttMs,
    exchanges,
    bearsMs: isRaw && bears.length > 0 ? Math.min(...bears) : null,
  };
}
