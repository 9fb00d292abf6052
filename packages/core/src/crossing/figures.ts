import type { Bay, Host, Thresholds, Verdict } from '@underpass/contracts';
import type { Assumed } from '../assumed/index.js';
import type { Evidence } from '../evidence/index.js';
import { assumedFieldsOf, openFieldsOf, type OpenField } from './assumedFields.js';
import { chooseHost } from '../hosts/index.js';
import { distanceKm } from '../link/index.js';
import type { Demand } from '../picture/index.js';
import { followed, type SettingValues } from '../settings/index.js';
import { signonTimeline, type SignonFacts, type Timeline } from '../signon/index.js';
import { voiceOnEndpoint, voiceThroughHost } from '../voice/index.js';
import { delayOf, type Delay } from './delay.js';
import { deskOf, type DeskItem } from './desk.js';
import { demandOf, lineDemandOf, type DemandOnLine } from './demandOf.js';
import { settingsOf, type CrossingFacts } from './facts.js';
import { framesOf, type Frames } from './frames.js';
import { ladderOf, type Step, type StepDoubt } from './ladder.js';
import { sessionOf, type Session } from './session.js';
import { signonFactsOf } from './signonFacts.js';
import { atLeast, atMost, lossAtMost, thresholdsFor } from './thresholds.js';
import { wayOf, type Way } from './way.js';
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

/** The verdict of one of the four questions. */
export interface Question {
  verdict: Verdict;
  /** The bay that decides. */
  bay: Bay;
}
/** A fact that is not known and decides. */
export type Missing =
  | 'round trips'
  | 'line rate'
  | 'rate upwards'
  | 'loss'
  | 'people at once'
  | 'Wi-Fi signal'
  | 'decoders'
  | 'screens'
  | 'graphics of the host'
  | 'sign-on times'
  | 'host figures'
  | 'what is assumed'
  | StepDoubt;

/** What a crossing is measured by beside whether it opens: a verdict each, with the whole interval. */
export type Aspect = 'delay' | 'sticking' | 'frames' | 'loss' | 'voice' | 'sending' | 'usable' | 'desk';

/** All figures of one crossing: numbers only, no findings. The fast part, done again for every remedy. */
export interface CrossingFigures {
  settings: SettingValues;
  wanted: Thresholds;
  /** What was assumed where nothing is known. */
  assumed: Assumed;
  session: Session;
  way: Way;
  host: Host | undefined;
  demand: Demand;
  /** What the session puts on the line beside and with its picture. */
  onLine: DemandOnLine;
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
  aspects: Record<Aspect, Verdict>;
  /** What has to be known of an aspect that is in doubt. */
  doubts: Partial<Record<Aspect, Missing>>;
  missing: Missing[];
  /** Fields that nobody knows and by which the verdict hangs; none where there are none. */
  openFields?: readonly OpenField[];
}

/** Profile over the data centre's own network or between regions; assumed. */
function profileMbps(facts: CrossingFacts, host: Host | undefined): number {
  const { profileRegion } = facts.resource;
  if (!profileRegion || !host || profileRegion === host.region) return 2000;
  const [a, b] = [facts.estate.regions.get(profileRegion), facts.estate.regions.get(host.region)];
  return a && b ? Math.max(50, 400 - distanceKm(a, b) / 5) : 400;
}

function voiceOf(facts: CrossingFacts, s: SettingValues, way: Way, session: Session): Voice {
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

const worse: Record<Verdict, number> = { blocked: 3, limited: 2, unknown: 1, clear: 0 };
/** The worse of two verdicts: Blocked, then Limited, then Unknown, then Clear. @example ("clear", "unknown") is "unknown" */
export const worstVerdict = (a: Verdict, b: Verdict): Verdict => (worse[b] > worse[a] ? b : a);

/** What nobody found out is at best not known. */
const unlessUnknown = (verdict: Verdict, known: boolean): Verdict => (known || verdict !== 'clear' ? verdict : 'unknown');

/** The bay in which what limits the frames lies. */
export const framesBay: Record<Frames['limiter'], Bay> = {
  'frame cap': 'Host',
  screen: 'Desk',
  'host drawing': 'Host',
  'host encoding': 'Host',
  decoding: 'Endpoint',
  'browser drawing': 'Endpoint',
  line: 'Link',
  loss: 'Link',
  'unsteady way': 'Link',
};
/** What has to be found out where frames are in doubt, and where it lies. */
const doubtBay: Record<NonNullable<Frames['missing']>, { bay: Bay; fact: Missing }> = {
  decoders: { bay: 'Endpoint', fact: 'decoders' },
  'graphics of the host': { bay: 'Host', fact: 'graphics of the host' },
  'host figures': { bay: 'Host', fact: 'host figures' },
  'line rate': { bay: 'Link', fact: 'line rate' },
  loss: { bay: 'Link', fact: 'loss' },
  'people at once': { bay: 'Link', fact: 'people at once' },
  'Wi-Fi signal': { bay: 'Local network', fact: 'Wi-Fi signal' },
  line: { bay: 'Link', fact: 'round trips' },
};

/** The part of the delay whose interval is widest: what would settle the delay if it were known. */
function doubtOfDelay({ parts }: Delay, way: Way, frames: Frames): Missing {
  let widest = { doubt: 0, name: '' };
  for (const { name, lowMs, highMs } of parts) if (highMs - lowMs > widest.doubt) widest = { doubt: highMs - lowMs, name };
  switch (widest.name) {
    case 'sent again after loss':
      return 'loss';
    case 'sending the changed area':
      return way.available && way.down ? 'people at once' : 'line rate';
    case 'decode':
      return 'decoders';
    case 'wait for the next frame':
      return doubtBay[frames.missing ?? 'host figures'].fact;
    case 'draw and capture':
    case 'encode':
    case 'way to the host':
      return 'host figures';
    default:
      return 'round trips';
  }
}

/** The bay that takes most of the delay. */
function bayOfDelay({ parts }: Delay): Bay {
  const byBay: Partial<Record<Bay, number>> = {};
  let most: Bay = 'Link';
  for (const { bay, ms } of parts) {
    const sum = (byBay[bay] ?? 0) + ms;
    byBay[bay] = sum;
    if (sum > (byBay[most] ?? 0)) most = bay;
  }
  return most;
}

/** Where the delay decides, its parts are added up by bay only where somebody looks. */
class FeltByDelay implements Question {
  readonly #delay: Delay;
  constructor(
    readonly verdict: Verdict,
    delay: Delay,
  ) {
    this.#delay = delay;
  }
  get bay(): Bay {
    return bayOfDelay(this.#delay);
  }
}

/** How it feels: delay, frames and voice against what the work wants, each with its whole interval. */
function feelOf(
  f: Pick<CrossingFigures, 'delay' | 'frames' | 'voice' | 'way' | 'wanted' | 'upNeededMbps' | 'assumed'>,
  missing: Missing[],
  aspects: CrossingFigures['aspects'],
  doubts: CrossingFigures['doubts'],
): Question {
  const { delay, frames, voice, way, wanted, upNeededMbps } = f;
  let verdict: Verdict = 'clear';
  let bay = 'Link' as Bay | 'of the delay';
  const doubt = (aspect: Aspect, fact: Missing) => {
    doubts[aspect] = fact;
    missing.push(fact);
  };
  const consider = (aspect: Aspect, next: Verdict, where: Bay | 'of the delay') => {
    aspects[aspect] = next;
    const combined = worstVerdict(verdict, next);
    if (combined !== verdict) bay = where;
    verdict = combined;
  };
  // what rests on the kind of line alone may be far from it
  const delayVerdict = unlessUnknown(atMost(delay, wanted.keyToPixelMs), way.rttKnown);
  if (delayVerdict === 'unknown') doubt('delay', way.rttKnown ? doubtOfDelay(delay, way, frames) : 'round trips');
  consider('delay', delayVerdict, delayVerdict === 'clear' ? 'Link' : 'of the delay');
  // what is too slow on average is told as that
  const stickingVerdict =
    delayVerdict === 'limited' ? 'clear' : atMost(delay.worst, wanted.keyToPixelMs * f.assumed.finding.worstDelayFactor);
  if (stickingVerdict === 'unknown')
    doubt('sticking', way.lossKnown && delay.high > wanted.keyToPixelMs ? doubtOfDelay(delay, way, frames) : 'loss');
  consider('sticking', stickingVerdict, 'Link');
  // a cap below what the work wants is short by itself, whatever else is known
  const framesVerdict = atLeast(frames, Math.min(wanted.framesAtLeast, frames.cap) - 0.05);
  const ofFrames = framesVerdict === 'unknown' ? doubtBay[frames.missing ?? 'line'] : null;
  if (ofFrames) doubt('frames', ofFrames.fact);
  consider('frames', frames.cap < wanted.framesAtLeast ? 'limited' : framesVerdict, ofFrames?.bay ?? framesBay[frames.limiter]);
  const lossVerdict = unlessUnknown(atMost(way.loss, lossAtMost(wanted)), way.lossKnown);
  if (lossVerdict === 'unknown') doubt('loss', 'loss');
  consider('loss', lossVerdict, 'Link');
  if (voice.counts && voice.kept) consider('voice', 'limited', 'Gateway');
  else if (voice.counts && wanted.voiceMosAtLeast !== undefined) {
    const voiceVerdict = voice.heard ? atLeast(voice.heard, wanted.voiceMosAtLeast) : 'unknown';
    if (voiceVerdict === 'unknown') doubt('voice', way.lossKnown ? 'round trips' : 'loss');
    consider('voice', voiceVerdict, voice.carried === 'host' ? 'Workspace' : 'Link');
  }
  if (upNeededMbps >= leastSendingMbps) {
    const upVerdict: Verdict = way.availableUp ? atLeast(way.availableUp, upNeededMbps) : 'unknown';
    if (upVerdict === 'unknown') doubt('sending', way.availableUp ? 'people at once' : 'rate upwards');
    consider('sending', upVerdict, 'Link');
  }
  return bay === 'of the delay' ? new FeltByDelay(verdict, delay) : { verdict, bay };
}

/** Input alone, which every line carries, Mbit/s; what sends more than this wants to be carried. */
const leastSendingMbps = 0.1;

/** Evidence by which a session is negotiated and the desk is known. */
const sameDevice = (a: Evidence, b: Evidence): boolean =>
  a.screens === b.screens &&
  a.browser === b.browser &&
  a.decoders === b.decoders &&
  a.datagrams?.value.passes === b.datagrams?.value.passes;

/**
 * Evaluates the numbers of one crossing. `settings` may be given where they are resolved already.
 * @param now the figures of what the facts were read like: what nothing that is other goes into is taken from them
 */
export function computeFigures(facts: CrossingFacts, settings?: SettingValues, now?: CrossingFigures): CrossingFigures {
  const figures = figuresAsTaken(facts, settings, now);
  const fields = assumedFieldsOf(facts);
  if (fields.length === 0) return figures;
  const open = openFieldsOf(
    settings ? { ...facts, resolved: settings } : facts,
    fields,
    figures.verdict,
    (each) => figuresAsTaken(each).verdict,
  );
  if (open.length === 0) return figures;
  return { ...figures, verdict: 'unknown', openFields: open, missing: [...new Set<Missing>([...figures.missing, 'what is assumed'])] };
}

/** The numbers of a crossing with all that its objects say taken to be so. */
function figuresAsTaken(facts: CrossingFacts, settings?: SettingValues, now?: CrossingFigures): CrossingFigures {
  const s = settings ?? settingsOf(facts);
  const { like } = facts;
  const same = now && like && now.settings === s && sameDevice(like.evidence, facts.evidence) ? now : null;
  const { resource, estate } = facts;
  const { assumed } = estate;
  const wanted = thresholdsFor(facts.estate.organisation, resource.work);
  const session = same?.session ?? sessionOf(facts, s);
  const host = now && like ? now.host : chooseHost(facts.pool, facts.hosts);
  const demand = same?.demand ?? demandOf(facts, s, session);
  const onLine = same?.onLine ?? lineDemandOf(facts, s, session, demand);
  const way = wayOf(facts, s, session, onLine);
  const frames = framesOf(facts, s, session, host, demand, way);
  const delay = delayOf(facts, s, session, host, demand, way, frames);
  const voice = voiceOf(facts, s, way, session);
  const upNeededMbps = onLine.upMbps;
  const signon = signonFactsOf(facts, s, { way, host, demand, session, profileMbps: profileMbps(facts, host) });
  const timeline = signonTimeline(signon);
  const ladder = ladderOf(facts, s, way, host, session.limits.preSession);
  const { broken, doubted } = ladder;
  // devices in full meet the way, which may be another though the settings are the same
  const desk = facts.devices.length === 0 && same ? same.desk : deskOf(facts, s, session, way);
  const missing: Missing[] = broken ? [] : ladder.doubts;
  const open: Question = broken
    ? { verdict: 'blocked', bay: broken.bay }
    : doubted
      ? { verdict: 'unknown', bay: doubted.bay }
      : { verdict: 'clear', bay: 'Gateway' };
  const aspects: CrossingFigures['aspects'] = {
    delay: 'clear',
    sticking: 'clear',
    frames: 'clear',
    loss: 'clear',
    voice: 'clear',
    sending: 'clear',
    usable: 'clear',
    desk: 'clear',
  };
  const doubts: CrossingFigures['doubts'] = {};
  const feel = feelOf({ delay, frames, voice, way, wanted, upNeededMbps, assumed }, missing, aspects, doubts);
  const usableVerdict = atMost({ low: timeline.lowS, high: timeline.highS }, wanted.usableWithinS);
  if (usableVerdict === 'unknown') missing.push((doubts.usable = way.rttKnown ? 'sign-on times' : 'round trips'));
  const longest = timeline.steps.reduce<Timeline['steps'][number] | null>(
    (most, step) => (most && most.seconds >= step.seconds ? most : step),
    null,
  );
  const usable: Question = { verdict: usableVerdict, bay: longest?.bay ?? 'Gateway' };
  const notWorking = desk.some((item) => item.works === false && !item.meant);
  const notKnown = desk.some((item) => item.works === null);
  if (notKnown) missing.push((doubts.desk = 'screens'));
  const works: Question = { verdict: notWorking ? 'limited' : notKnown ? 'unknown' : 'clear', bay: 'Desk' };
  aspects.usable = usable.verdict;
  aspects.desk = works.verdict;
  const verdict = broken ? 'blocked' : worstVerdict(worstVerdict(open.verdict, feel.verdict), worstVerdict(usable.verdict, works.verdict));
  return {
    settings: s,
    wanted,
    assumed,
    session,
    way,
    host,
    demand,
    frames,
    delay,
    voice,
    signon,
    timeline,
    ladder: ladder.steps,
    onLine,
    broken,
    desk,
    upNeededMbps,
    open,
    usable,
    feel,
    works,
    verdict,
    aspects,
    doubts,
    missing: missing.length > 1 ? [...new Set(missing)] : missing,
  };
}
