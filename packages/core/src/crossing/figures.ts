import type { Bay, Host, Thresholds, Verdict } from '@underpass/contracts';
import { chooseHost } from '../hosts/index.js';
import { distanceKm } from '../link/index.js';
import type { Demand } from '../picture/index.js';
import type { SettingValues } from '../settings/index.js';
import { signonTimeline, type SignonFacts, type Timeline } from '../signon/index.js';
import { callMbps, voiceOnEndpoint, voiceThroughHost } from '../voice/index.js';
import { delayOf, type Delay } from './delay.js';
import { deskOf, type DeskItem } from './desk.js';
import { demandOf } from './demandOf.js';
import { settingsOf, type CrossingFacts } from './facts.js';
import { framesOf, type Frames } from './frames.js';
import { ladderOf, type Step } from './ladder.js';
import { sessionOf, type Session } from './session.js';
import { signonFactsOf } from './signonFacts.js';
import { thresholdsFor } from './thresholds.js';
import { wayOf, type Way } from './way.js';

/** Quality of a call: MOS (1 to 4.5) with its interval, and R (0 to 100) [ITU-T G.107]. */
export interface VoiceFigure {
  mos: number;
  low: number;
  high: number;
  r: number;
}
/** A call on both ways it may take, and the one it takes. */
export interface Voice {
  /** null where loss or delay is not known. */
  host: VoiceFigure | null;
  endpoint: VoiceFigure | null;
  carried: 'host' | 'endpoint';
  /** Whether the resource holds calls at all. */
  counts: boolean;
}

/** The verdict of one of the four questions. */
export interface Question {
  verdict: Verdict;
  /** The bay that decides. */
  bay: Bay;
}
/** A fact that is not known and decides. */
export type Missing =
  'round trips' | 'line rate' | 'loss' | 'decoders' | 'screens' | 'graphics of the host' | 'sign-on times' | 'host figures';

/** All figures of one crossing: numbers only, no findings. The fast part, done again for every remedy. */
export interface CrossingFigures {
  settings: SettingValues;
  wanted: Thresholds;
  session: Session;
  way: Way;
  host: Host | undefined;
  demand: Demand;
  frames: Frames;
  delay: Delay;
  voice: Voice;
  signon: SignonFacts;
  timeline: Timeline;
  ladder: Step[];
  broken: Step | null;
  desk: DeskItem[];
  /** What the endpoint sends besides input: camera and voice, Mbit/s. */
  upNeededMbps: number;
  open: Question;
  usable: Question;
  feel: Question;
  works: Question;
  verdict: Verdict;
  missing: Missing[];
}

/** Camera picture by height, Mbit/s, H.264 at 30 frames a second; from memory, assumed. */
const cameraMbps = (heightPx: number): number => (heightPx <= 360 ? 0.6 : heightPx <= 720 ? 1.5 : 3);

/** Profile over the data centre's own network or between regions; assumed. */
function profileMbps(facts: CrossingFacts, host: Host | undefined): number {
  const { profileRegion } = facts.resource;
  if (!profileRegion || !host || profileRegion === host.region) return 2000;
  const [a, b] = [facts.estate.regions.get(profileRegion), facts.estate.regions.get(host.region)];
  return a && b ? Math.max(50, 400 - distanceKm(a, b) / 5) : 400;
}

function voiceOf(facts: CrossingFacts, s: SettingValues, way: Way, session: Session): Voice {
  const carried = s['media.callOffload'] && facts.endpoint.clientKind !== 'browser' ? 'endpoint' : 'host';
  const counts = facts.resource.calls;
  if (!counts) return { host: null, endpoint: null, carried, counts };
  if (!way.loss) return { host: null, endpoint: null, carried, counts };
  const jitterMs = way.jitterMs ?? 2;
  const at = (f: typeof voiceThroughHost, rttMs: number, lossPercent: number) =>
    f({ rttMs, jitterMs, lossPercent, transport: session.transport });
  const figure = (f: typeof voiceThroughHost): VoiceFigure => {
    const { mos, r } = at(f, way.rtt.value, way.loss?.value ?? 0);
    return { mos, r, low: at(f, way.rtt.high, way.loss?.high ?? 0).mos, high: at(f, way.rtt.low, way.loss?.low ?? 0).mos };
  };
  return { host: figure(voiceThroughHost), endpoint: figure(voiceOnEndpoint), carried, counts };
}

const atMost = (figure: { value: number; low: number; high: number }, limit: number): Verdict =>
  figure.low > limit ? 'limited' : figure.high <= limit ? 'clear' : 'unknown';

const worse: Record<Verdict, number> = { blocked: 3, limited: 2, unknown: 1, clear: 0 };
/** The worse of two verdicts: Blocked, then Limited, then Unknown, then Clear. @example ("clear", "unknown") is "unknown" */
export const worstVerdict = (a: Verdict, b: Verdict): Verdict => (worse[b] > worse[a] ? b : a);

/** Measured evidence with a narrow interval settles a threshold by its value: the interval then says how sure, not whether. */
function feelOf(f: Pick<CrossingFigures, 'delay' | 'frames' | 'voice' | 'way' | 'wanted'>, missing: Missing[]): Question {
  const { delay, frames, voice, way, wanted } = f;
  let verdict: Verdict = 'clear';
  let bay: Bay = 'Link';
  const consider = (next: Verdict, where: Bay) => {
    const combined = worstVerdict(verdict, next);
    if (combined !== verdict) bay = where;
    verdict = combined;
  };
  const delayVerdict = atMost(delay, wanted.keyToPixelMs);
  if (delayVerdict === 'unknown') missing.push(way.rttKnown ? 'host figures' : 'round trips');
  consider(delayVerdict, 'Link');
  const framesWanted = Math.min(wanted.framesAtLeast, frames.cap);
  const framesVerdict: Verdict = frames.high < framesWanted - 0.05 ? 'limited' : frames.low >= framesWanted - 0.05 ? 'clear' : 'unknown';
  const framesBay: Record<Frames['limiter'], Bay> = {
    'frame cap': 'Host',
    screen: 'Desk',
    'host drawing': 'Host',
    'host encoding': 'Host',
    decoding: 'Endpoint',
    'browser drawing': 'Endpoint',
    line: 'Link',
  };
  if (framesVerdict === 'unknown' && frames.missing) missing.push(frames.missing);
  consider(
    frames.cap < wanted.framesAtLeast ? worstVerdict(framesVerdict, 'limited') : framesVerdict,
    framesVerdict === 'unknown'
      ? frames.missing === 'decoders'
        ? 'Endpoint'
        : frames.missing === 'line rate'
          ? 'Link'
          : 'Host'
      : framesBay[frames.limiter],
  );
  if (voice.counts && wanted.voiceMosAtLeast !== undefined) {
    const heard = voice.carried === 'host' ? voice.host : voice.endpoint;
    const voiceVerdict: Verdict = !heard
      ? 'unknown'
      : heard.high < wanted.voiceMosAtLeast
        ? 'limited'
        : heard.low >= wanted.voiceMosAtLeast
          ? 'clear'
          : heard.mos >= wanted.voiceMosAtLeast
            ? 'unknown'
            : 'limited';
    if (voiceVerdict === 'unknown') missing.push('loss');
    consider(voiceVerdict, voice.carried === 'host' ? 'Workspace' : 'Link');
  }
  return { verdict, bay };
}

/** Evaluates the numbers of one crossing. `settings` may be given where they are resolved already. */
export function computeFigures(facts: CrossingFacts, settings?: SettingValues): CrossingFigures {
  const s = settings ?? settingsOf(facts);
  const { resource, endpoint } = facts;
  const wanted = thresholdsFor(facts.estate.organisation, resource.work);
  const session = sessionOf(facts, s);
  const host = chooseHost(facts.pool, facts.hosts);
  const demand = demandOf(facts, s, session);
  const way = wayOf(facts, s, session);
  const frames = framesOf(facts, s, session, host, demand, way);
  const delay = delayOf(facts, s, session, host, demand, way, frames);
  const voice = voiceOf(facts, s, way, session);
  const upNeededMbps =
    0.05 +
    (resource.calls ? callMbps : 0) +
    (resource.camera && endpoint.peripherals.includes('camera') ? cameraMbps(s['media.cameraHeight']) : 0);
  const signon = signonFactsOf(facts, s, { way, host, demand, profileMbps: profileMbps(facts, host) });
  const timeline = signonTimeline(signon);
  const ladder = ladderOf(facts, s, way, host, session.limits.preSession);
  const broken = ladder.find((step) => step.state === 'broken') ?? null;
  const desk = deskOf(facts, s, session);
  const missing: Missing[] = [];
  const open: Question = broken ? { verdict: 'blocked', bay: broken.bay } : { verdict: 'clear', bay: 'Gateway' };
  const feel = feelOf({ delay, frames, voice, way, wanted }, missing);
  const usableVerdict = atMost({ value: timeline.totalS, low: timeline.lowS, high: timeline.highS }, wanted.usableWithinS);
  if (usableVerdict === 'unknown') missing.push(way.rttKnown ? 'sign-on times' : 'round trips');
  const longest = timeline.steps.reduce<Timeline['steps'][number] | null>(
    (most, step) => (most && most.seconds >= step.seconds ? most : step),
    null,
  );
  const usable: Question = { verdict: usableVerdict, bay: longest?.bay ?? 'Gateway' };
  const notWorking = desk.some((item) => item.works === false);
  const notKnown = desk.some((item) => item.works === null);
  if (notKnown) missing.push('screens');
  const works: Question = { verdict: notWorking ? 'limited' : notKnown ? 'unknown' : 'clear', bay: 'Desk' };
  const verdict = broken ? 'blocked' : worstVerdict(worstVerdict(feel.verdict, usable.verdict), works.verdict);
  return {
    settings: s,
    wanted,
    session,
    way,
    host,
    demand,
    frames,
    delay,
    voice,
    signon,
    timeline,
    ladder,
    broken,
    desk,
    upNeededMbps,
    open,
    usable,
    feel,
    works,
    verdict,
    missing,
  };
}
