import { followed, type SettingValues } from '../settings/index.js';
import { voiceOnEndpoint, voiceThroughHost } from '../voice/index.js';
import type { CrossingFacts } from './facts.js';
import type { Session } from './session.js';
import type { Way } from './way.js';
import { callDetourMs, tunnelledOf } from './wayIn.js';

/** Quality of a call: MOS (1 to 4.5) with its interval, and R (0 to 100) [ITU-T G.107]. */
export interface VoiceFigure {
  mos: number;
  low: number;
  high: number;
  r: number;
}
/** A call on both ways it may take, and the one it takes. */
export interface Voice {
  /** null where the work holds no calls. */
  host: VoiceFigure | null;
  endpoint: VoiceFigure | null;
  carried: 'host' | 'endpoint';
  /** The one of the two that is heard. */
  heard: VoiceFigure | null;
  /** What a setting keeps from a call that goes through the session. */
  kept: 'sound' | 'microphone' | null;
  /** Whether the resource holds calls at all. */
  counts: boolean;
}

/** A call as it is heard on both ways it may take: all that delays it, and what is lost of it. */
export function voiceOf(facts: CrossingFacts, s: SettingValues, way: Way, session: Session): Voice {
  const carried = s['media.callOffload'] && followed(s, 'media.callOffload', facts.endpoint) ? 'endpoint' : 'host';
  const counts = facts.resource.calls;
  if (!counts) return { host: null, endpoint: null, carried, heard: null, kept: null, counts };
  const jitterMs = way.jitterMs ?? 2;
  const wifi = facts.endpoint.connection === 'wifi';
  const { rtt, busyMs, spreadMs, localMs, loss } = way;
  const { transport } = session;
  const waitsMs = followed(s, 'sound.bufferMs', facts.endpoint);
  // speech that is kept for speech alone is coded as narrowly as the narrowest
  const codec = s['sound.quality'] === 'for speech' ? ('g729a' as const) : ('g711-plc' as const);
  const detourMs = tunnelledOf(s, facts.endpoint).calls ? callDetourMs : 0;
  const figure = (f: typeof voiceThroughHost): VoiceFigure => {
    const moreMs = f === voiceOnEndpoint ? detourMs : 0;
    const at = (rttMs: number, spread: number, lossPercent: number) =>
      f({ rttMs: rttMs + moreMs, jitterMs, spreadMs: spread, lossPercent, transport, waitsMs, codec });
    const { mos, r } = at(rtt.value + 2 * busyMs.value, spreadMs.value + (wifi ? localMs.value : 0), loss.value);
    const low = at(rtt.high + 2 * busyMs.high, spreadMs.high + (wifi ? localMs.high : 0), loss.high).mos;
    const high = at(rtt.low + 2 * busyMs.low, spreadMs.low + (wifi ? localMs.low : 0), loss.low).mos;
    return { mos, r, low: Math.min(mos, low), high: Math.max(mos, high) };
  };
  const [host, endpoint] = [figure(voiceThroughHost), figure(voiceOnEndpoint)];
  const kept =
    carried === 'endpoint' ? null : s['sound.play'] !== 'on the endpoint' ? 'sound' : s['sound.microphone'] ? null : 'microphone';
  return { host, endpoint, carried, heard: carried === 'host' ? host : endpoint, kept, counts };
}
