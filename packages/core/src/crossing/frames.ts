import { brokenRung } from '../hosts/index.js';
import { decoderMacroblocksPerS, fittingDecoder, needsDecoder, softwareMacroblocksPerS } from '../screens/index.js';
import { framesOnLine, type Demand } from '../picture/index.js';
import type { SettingValues } from '../settings/index.js';
import type { Host } from '@underpass/contracts';
import type { CrossingFacts } from './facts.js';
import type { Session } from './session.js';
import type { Way } from './way.js';

/** What holds the frame rate where it is. */
export type FrameLimiter = 'frame cap' | 'screen' | 'host drawing' | 'host encoding' | 'decoding' | 'browser drawing' | 'line';

/** How the picture is decoded, in macroblocks (16 × 16 px) a second. */
export interface Decoding {
  by: 'hardware' | 'processor' | 'not known';
  /** Macroblocks a second it can take; null where not known. */
  capacity: number | null;
  neededMacroblocksPerS: number;
  processor: number;
}

/** How the picture is coded on the host; ms are of one frame. */
export interface Encoding {
  by: 'card' | 'processor' | 'not known';
  /** Frames a second it can send for this session. */
  fps: number;
  ms: number;
  assumed: boolean;
}

/** Frames a second that reach the eye, with the interval and what limits them. */
export interface Frames {
  value: number;
  low: number;
  high: number;
  limiter: FrameLimiter;
  cap: number;
  quality: number;
  decoding: Decoding;
  encoding: Encoding;
  /** Time to draw a frame on the host, ms. */
  drawMs: number;
  drawAssumed: boolean;
  /** What is not known and decides. */
  missing: 'decoders' | 'line rate' | 'graphics of the host' | null;
}

/** A 3D scene drawn on the processor: about 4 frames a second; common practice, no source. */
const drawnByProcessorFps = 4;
const assumedDrawMs = 8;

function decodingOf(facts: CrossingFacts, s: SettingValues, session: Session, fps: number): Decoding {
  const { endpoint, evidence } = facts;
  const small =
    endpoint.deviceClass === 'thin-client' ||
    endpoint.deviceClass === 'kiosk' ||
    endpoint.deviceClass === 'phone' ||
    endpoint.processor !== 'x86-64';
  const processor = softwareMacroblocksPerS(session.codec, { cores: endpoint.cores ?? 2, smallProcessor: small });
  const needed = session.macroblocks * fps;
  if (!needsDecoder(session.codec)) return { by: 'processor', capacity: processor, neededMacroblocksPerS: needed, processor };
  const decoders = evidence.decoders?.value ?? endpoint.decoders;
  if (!s['picture.hardwareDecode'] || decoders?.length === 0)
    return { by: 'processor', capacity: processor, neededMacroblocksPerS: needed, processor };
  if (!decoders) return { by: 'not known', capacity: null, neededMacroblocksPerS: needed, processor };
  const decoder = fittingDecoder(decoders, session.codec, session.chroma444);
  if (!decoder) return { by: 'processor', capacity: processor, neededMacroblocksPerS: needed, processor };
  return { by: 'hardware', capacity: decoderMacroblocksPerS(decoder), neededMacroblocksPerS: needed, processor };
}

/** Encoding on the processor of the host: 12 ms for a 1080p frame; from memory, assumed. */
function encodingOf(host: Host | undefined, s: SettingValues, session: Session): Encoding {
  const inHardware =
    s['picture.hardwareEncode'] &&
    host?.graphics?.encoder === true &&
    host.graphics.card &&
    session.codec !== 'bitmap' &&
    session.codec !== 'progressive';
  const sizeFactor = session.macroblocks / 8160;
  if (inHardware && host) {
    const free =
      host.encoderMacroblocksPerS === undefined
        ? Infinity
        : host.encoderMacroblocksPerS * (host.encoderLoad === undefined ? 1 / Math.max(1, (host.used ?? 0) + 1) : 1 - host.encoderLoad);
    const ms = host.encodeMs ?? 5 * Math.max(1, sizeFactor * 0.6);
    return { by: 'card', fps: free / Math.max(1, session.macroblocks), ms, assumed: host.encodeMs === undefined };
  }
  const ms = (host?.encodeMs ?? 12) * (host?.encodeMs === undefined ? sizeFactor : 1);
  return { by: host?.graphics ? 'processor' : 'not known', fps: 1000 / Math.max(1, ms), ms, assumed: host?.encodeMs === undefined };
}

/** Frames a second that reach the eye, and which part limits them. */
export function framesOf(
  facts: CrossingFacts,
  s: SettingValues,
  session: Session,
  host: Host | undefined,
  demand: Demand,
  way: Way,
): Frames {
  const cap = s['picture.frameCap'];
  let value = cap;
  let limiter: FrameLimiter = 'frame cap';
  const limit = (fps: number, name: FrameLimiter) => {
    if (fps < value - 0.01) {
      value = fps;
      limiter = name;
    }
  };
  let missing: Frames['missing'] = null;
  let low = Infinity;
  for (const screen of session.screens) if (screen.refreshHz !== null) limit(screen.refreshHz, 'screen');
  let drawMs = host?.drawMs ?? assumedDrawMs;
  if (facts.resource.graphics) {
    const rung = brokenRung(host?.graphics);
    if (rung) drawMs = Math.max(drawMs, 1000 / drawnByProcessorFps);
    else if (rung === undefined && host?.drawMs === undefined) {
      missing = 'graphics of the host';
      low = Math.min(low, drawnByProcessorFps);
    }
  }
  limit(1000 / drawMs, 'host drawing');
  const encoding = encodingOf(host, s, session);
  limit(encoding.fps, 'host encoding');
  const decoding = decodingOf(facts, s, session, value);
  const capacity = decoding.capacity ?? decoding.processor;
  const decodeFps = capacity / Math.max(1, session.macroblocks);
  if (decoding.capacity !== null) limit(decodeFps, 'decoding');
  else if (decodeFps < value) {
    missing ??= 'decoders';
    low = Math.min(low, decodeFps);
  }
  const scene = facts.endpoint.clientKind === 'browser' ? facts.evidence.scene?.value : undefined;
  if (scene) limit(scene.averageFps, 'browser drawing');
  let quality = 1;
  if (way.available) {
    const onLine = framesOnLine(way.available.value, demand.p95Mbps, cap, s['picture.qualityFloor']);
    quality = onLine.quality;
    limit(onLine.fps, 'line');
  } else {
    missing = 'line rate';
    low = 0;
  }
  return {
    value,
    low: Math.min(value, low),
    high: value,
    limiter,
    cap,
    quality,
    decoding,
    encoding,
    drawMs,
    drawAssumed: host?.drawMs === undefined,
    missing,
  };
}
