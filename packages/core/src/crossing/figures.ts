import type { Host, Thresholds, Verdict } from '@underpass/contracts';
import type { Assumed } from '../assumed/index.js';
import type { Evidence } from '../evidence/index.js';
import { assumedFieldsOf, openFieldsOf, type OpenField } from './assumedFields.js';
import { chooseHost } from '../hosts/index.js';
import { distanceKm } from '../link/index.js';
import type { Demand } from '../picture/index.js';
import type { SettingValues } from '../settings/index.js';
import { signonTimeline, type SignonFacts, type Timeline } from '../signon/index.js';
import { delayOf, type Delay } from './delay.js';
import { deskOf, type DeskItem } from './desk.js';
import { demandOf, lineDemandOf, type DemandOnLine } from './demandOf.js';
import { settingsOf, type CrossingFacts } from './facts.js';
import { feelOf } from './feel.js';
import { framesOf, type Frames } from './frames.js';
import { ladderOf, type Step } from './ladder.js';
import { worstVerdict, type Aspect, type Missing, type Question } from './question.js';
import { sessionOf, type Session } from './session.js';
import { signonFactsOf } from './signonFacts.js';
import { atMost, thresholdsFor } from './thresholds.js';
import { voiceOf, type Voice } from './voiceOf.js';
import { wayOf, type Way } from './way.js';

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
