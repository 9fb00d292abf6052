import { brokenRung } from '../hosts/index.js';
import { decodeCapacity, needsDecoder, softwareMacroblocksPerS } from '../screens/index.js';
import { framesAfterLoss, framesAfterSpread, framesOnLine, type Demand, type LossRepair } from '../picture/index.js';
import type { SettingValues } from '../settings/index.js';
import type { Host } from '@underpass/contracts';
import type { Assumed } from '../assumed/index.js';
import type { CrossingFacts } from './facts.js';
import type { Session } from './session.js';
import type { Way } from './way.js';

/** What holds the frame rate where it is. */
export type FrameLimiter =
  | 'frame cap'
  | 'screen'
  | 'host drawing'
  | 'host encoding'
  | 'decoding'
  | 'browser drawing'
  | 'line'
  | 'loss'
  | 'unsteady way';

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
  /** The same where what is assumed is at its worst. */
  fpsLow: number;
  ms: number;
  spreadMs: number;
  assumed: boolean;
}

/** Frames a second that reach the eye, with the interval and what limits them. */
export interface Frames {
  value: number;
  low: number;
  high: number;
  limiter: FrameLimiter;
  cap: number;
  /** Part of the wanted quality that the line leaves; with the interval. */
  quality: number;
  /** Delay that sending again what was lost adds: to all frames on average, and to their worst twentieth, ms. */
  resentMs: { value: number; low: number; high: number };
  resentWorstMs: { value: number; low: number; high: number };
  /** Part of the frames that is shown with holes in it, 0 to 1. */
  damagedShare: number;
  decoding: Decoding;
  encoding: Encoding;
  /** Time to draw a frame on the host, ms. */
  drawMs: number;
  drawAssumed: boolean;
  /** What is not known and decides. */
  missing: 'decoders' | 'line rate' | 'graphics of the host' | 'host figures' | 'loss' | 'line' | 'Wi-Fi signal' | 'people at once' | null;
}

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
  // what a browser answers holds for the browser; another client asks the device
  const decoders = (endpoint.clientKind === 'browser' ? evidence.decoders?.value : undefined) ?? endpoint.decoders;
  const byProcessor: Decoding = { by: 'processor', capacity: processor, neededMacroblocksPerS: needed, processor };
  if (!s['picture.hardwareDecode'] || decoders?.length === 0) return byProcessor;
  const capacity = decoders ? decodeCapacity(decoders, session.codec, session.chroma444, session.screens) : 'not known';
  if (capacity === 'not known') return { by: 'not known', capacity: null, neededMacroblocksPerS: needed, processor };
  return capacity === null ? byProcessor : { by: 'hardware', capacity, neededMacroblocksPerS: needed, processor };
}

/** What is assumed of drawing and encoding may be off by a half. */
const give = 0.5;

/** Part of an encoder that one more session gets: where its load is not told, as many as are there share it, or as many as may be. */
function encoderShare({ used, places, encoderLoad }: Host): { share: number; least: number } {
  if (encoderLoad !== undefined) return { share: 1 - encoderLoad, least: 1 - encoderLoad };
  const share = 1 / Math.max(1, (used ?? 0) + 1);
  return { share, least: used === undefined ? 1 / places : share };
}

function encodingOf(host: Host | undefined, s: SettingValues, session: Session, assumedMs: Assumed['host']): Encoding {
  const { graphics, encodeMs } = host ?? {};
  const inHardware =
    s['picture.hardwareEncode'] &&
    graphics?.encoder === true &&
    graphics.card &&
    session.codec !== 'bitmap' &&
    session.codec !== 'progressive';
  const sizeFactor = session.macroblocks / 8160;
  const assumed = encodeMs === undefined;
  if (inHardware && host) {
    const ms = encodeMs ?? assumedMs.cardMs * Math.max(1, sizeFactor * 0.6);
    const each = (host.encoderMacroblocksPerS ?? Infinity) / Math.max(1, session.macroblocks);
    const { share, least } = encoderShare(host);
    return { by: 'card', fps: each * share, fpsLow: each * least, ms, spreadMs: assumed ? ms * give : 0, assumed };
  }
  const ms = encodeMs ?? assumedMs.processorMs * sizeFactor;
  const spreadMs = assumed ? ms * give : 0;
  return {
    by: graphics ? 'processor' : 'not known',
    fps: 1000 / Math.max(1, ms),
    fpsLow: 1000 / Math.max(1, ms + spreadMs),
    ms,
    spreadMs,
    assumed,
  };
}

/** What the way makes of a picture that leaves the host with so many frames. */
interface OverTheWay {
  fps: number;
  quality: number;
  addedMeanMs: number;
  addedP95Ms: number;
  damagedShare: number;
  by: FrameLimiter | null;
}

/** What the settings say of how a picture goes over a way. */
interface Sending {
  cap: number;
  qualityFloor: number;
  repairShare: number;
  p95Mbps: number;
}

/** A picture over the way at one end of its intervals: how much it lets through, loses, takes and varies. */
function overTheWay(
  sent: number,
  { cap, qualityFloor, repairShare, p95Mbps }: Sending,
  repair: LossRepair,
  availableMbps: number,
  lossPercent: number,
  rttMs: number,
  spreadMs: number,
  timeoutMs: number,
): OverTheWay {
  const again = repair === 'forward' ? 1 + repairShare : 1 / (1 - Math.min(0.9, lossPercent / 100));
  const line = framesOnLine(availableMbps, p95Mbps * again, cap, qualityFloor);
  const fps = Math.min(sent, line.fps);
  let by: FrameLimiter | null = line.fps < sent - 0.01 ? 'line' : null;
  if (lossPercent <= 0 && spreadMs <= 0) return { fps, quality: line.quality, addedMeanMs: 0, addedP95Ms: 0, damagedShare: 0, by };
  // at full quality: that a narrower line makes frames smaller is not reckoned as a gain
  const frameBits = (p95Mbps * 1e6) / Math.max(1, cap);
  const afterLoss = framesAfterLoss({ fps, frameBits, lossShare: lossPercent / 100, rttMs, repair, repairShare, timeoutMs });
  const afterSpread = framesAfterSpread(afterLoss.fps, spreadMs);
  const [lost, held] = [fps - afterLoss.fps, afterLoss.fps - afterSpread];
  // whatever takes most is named
  if (Math.max(lost, held) > 0.5 && Math.max(lost, held) > cap - fps) by = lost >= held ? 'loss' : 'unsteady way';
  const { addedMeanMs, addedP95Ms, damagedShare } = afterLoss;
  return { fps: afterSpread, quality: line.quality, addedMeanMs, addedP95Ms, damagedShare, by };
}

const repairOf = (session: Session, s: SettingValues, tcp: boolean): LossRepair =>
  tcp || session.transport === 'tcp' ? 'tcp' : (s['transport.repair'] as LossRepair);

/** Frames a second that leave the host and reach the endpoint’s screen but for the way between them. */
function framesBesideTheWay(facts: CrossingFacts, s: SettingValues, session: Session, host: Host | undefined) {
  const cap = s['picture.frameCap'];
  let value = cap;
  let low = Infinity;
  let limiter: FrameLimiter = 'frame cap';
  let missing: Frames['missing'] = null;
  const limit = (fps: number, name: FrameLimiter) => {
    if (fps < value - 0.01) {
      value = fps;
      limiter = name;
    }
  };
  const doubt = (fps: number, what: NonNullable<Frames['missing']>) => {
    low = Math.min(low, fps);
    missing ??= what;
  };
  for (const screen of session.screens) if (screen.refreshHz !== null) limit(screen.refreshHz, 'screen');
  const usual = facts.estate.assumed.host;
  let drawMs = host?.drawMs ?? usual.drawMs;
  if (facts.resource.graphics) {
    const rung = brokenRung(host?.graphics);
    if (rung) drawMs = Math.max(drawMs, 1000 / usual.drawnByProcessorFps);
    else if (rung === undefined && host?.drawMs === undefined) doubt(usual.drawnByProcessorFps, 'graphics of the host');
  }
  limit(1000 / drawMs, 'host drawing');
  const encoding = encodingOf(host, s, session, usual);
  limit(encoding.fps, 'host encoding');
  if (encoding.fpsLow < encoding.fps) doubt(encoding.fpsLow, 'host figures');
  const decoding = decodingOf(facts, s, session, value);
  const capacity = decoding.capacity ?? decoding.processor;
  const decodeFps = capacity / Math.max(1, session.macroblocks);
  if (decoding.capacity !== null) limit(decodeFps, 'decoding');
  else if (decodeFps < value) doubt(decodeFps, 'decoders');
  const scene = facts.endpoint.clientKind === 'browser' ? facts.evidence.scene?.value : undefined;
  if (scene) limit(scene.averageFps, 'browser drawing');
  return { value, low, limiter: limiter as FrameLimiter, missing: missing as Frames['missing'], drawMs, encoding, decoding };
}

/** Which fact of the way decides whether its worst end is met. */
function doubtOf(way: Way): NonNullable<Frames['missing']> {
  const { available, loss, down } = way;
  if (!way.lossKnown || (loss.high > loss.low && (loss.high - loss.value > 0.2 || way.bound === 'loss'))) return 'loss';
  if (available && way.bound === 'Wi-Fi' && available.low < available.value) return 'Wi-Fi signal';
  if (down && available && available.low < available.value) return 'people at once';
  return 'line';
}

/** A figure with its interval. */
interface Span {
  value: number;
  low: number;
  high: number;
}
const nothing: Span = { value: 0, low: 0, high: 0 };
const spanOf = (value: number, best: number, worst: number): Span => ({
  value,
  low: Math.min(value, best),
  high: Math.max(value, worst),
});

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
  const beside = framesBesideTheWay(facts, s, session, host);
  let { value, missing } = beside;
  let limiter: FrameLimiter = beside.limiter;
  let low = Math.min(value, beside.low);
  let high = value;
  let quality = 1;
  let damagedShare = 0;
  let resentMs = nothing;
  let resentWorstMs = nothing;
  const { available, loss, rtt, spreadMs, localMs, timeoutMs } = way;
  if (available) {
    const sending: Sending = {
      cap,
      qualityFloor: s['picture.qualityFloor'],
      repairShare: s['transport.repairShare'] / 100,
      p95Mbps: demand.p95Mbps,
    };
    const repair = repairOf(session, s, false);
    const local = localMs.source === 'measured' ? localMs : null;
    const at = (lossPercent: number, rttMs: number, mbps: number, spread: number, timeout: number, by = repair) =>
      overTheWay(value, sending, by, mbps, lossPercent, rttMs, spread, timeout);
    const reached = at(loss.value, rtt.value, available.value, spreadMs.value + (local?.value ?? 0), timeoutMs.value);
    const worstRepair = way.mayBeTcp ? repairOf(session, s, true) : repair;
    const worst = at(loss.high, rtt.high, available.low, spreadMs.high + (local?.high ?? 0), timeoutMs.high, worstRepair);
    // where nothing is taken off, nothing could be taken off less
    const best =
      reached.fps >= value && reached.addedP95Ms === 0
        ? reached
        : at(loss.low, rtt.low, available.high, spreadMs.low + (local?.low ?? 0), timeoutMs.low);
    high = Math.max(reached.fps, best.fps);
    if (reached.by) limiter = reached.by;
    if (worst.fps < reached.fps - 0.05) missing ??= doubtOf(way);
    low = Math.min(low, worst.fps, reached.fps);
    value = reached.fps;
    ({ quality, damagedShare } = reached);
    if (worst.addedP95Ms > 0) {
      resentMs = spanOf(reached.addedMeanMs, best.addedMeanMs, worst.addedMeanMs);
      resentWorstMs = spanOf(reached.addedP95Ms, best.addedP95Ms, worst.addedP95Ms);
    }
  } else {
    missing = 'line rate';
    low = 0;
  }
  const { decoding, encoding, drawMs } = beside;
  return {
    value,
    low,
    high,
    limiter,
    cap,
    quality,
    resentMs,
    resentWorstMs,
    damagedShare,
    decoding,
    encoding,
    drawMs,
    drawAssumed: host?.drawMs === undefined,
    missing,
  };
}
