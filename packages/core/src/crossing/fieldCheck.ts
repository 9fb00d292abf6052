import type { CheckWanted, Figures, Organisation, Resource, Verdict } from '@underpass/contracts';
import { shareInterval } from '../link/index.js';
import { pictureDemand } from '../picture/index.js';
import { callMbps, voiceOnEndpoint } from '../voice/index.js';
import { shippedAssumed } from '../assumed/index.js';
import { cameraMbps } from './camera.js';
import { inputMbps } from './demandOf.js';
import { around } from './delay.js';
import { atLeast, atMost, lossAtMost, thresholdsFor } from './thresholds.js';

// whoever is checked is told no more of the estate than what is wanted
const { fewestRoundTrips } = shippedAssumed.evidence;
const { worstDelayFactor } = shippedAssumed.finding;

/** What a field check looks at, in the order in which it does. */
export const checkParts = ['quick', 'steady', 'down', 'up', 'picture'] as const;
/** One of them. */
export type CheckPart = (typeof checkParts)[number];

/** What one part of a field check came to by itself. */
export interface CheckJudged {
  verdict: Verdict;
  /** Not known because too little came back, because it could not be measured at all, or because it is enough only while the line is idle. */
  because?: 'too few' | 'not measured' | 'under load';
}

/** What of a resource says what is wanted of the way to it. */
type Worked = Pick<Resource, 'work' | 'calls' | 'camera'>;
/** Where nobody says what is worked with: office work and calls with a camera. */
const usually: readonly Worked[] = [
  { work: 'office', calls: false, camera: false },
  { work: 'calls', calls: true, camera: true },
];

/** What is wanted of the way by whoever works with these resources: of each threshold the strictest; voice where there are calls. */
export function checkWanted(organisation: Organisation, resources: readonly Worked[]): CheckWanted {
  const all = (resources.length > 0 ? resources : usually).map((each) => ({ ...each, least: thresholdsFor(organisation, each.work) }));
  return {
    keyToPixelMs: Math.min(...all.map(({ least }) => least.keyToPixelMs)),
    framesAtLeast: Math.max(...all.map(({ least }) => least.framesAtLeast)),
    voiceMosAtLeast: Math.max(1, ...all.map(({ calls, least }) => (calls ? (least.voiceMosAtLeast ?? 1) : 1))),
    lossAtMostPercent: Math.min(...all.map(({ least }) => lossAtMost(least))),
    calls: all.some(({ calls }) => calls),
    camera: all.some(({ camera }) => camera),
  };
}

/** Lines of the camera picture that is taken to be sent, and of one that is large. */
const [cameraPx, largeCameraPx] = [720, 1080];

/**
 * Rates that a check is held against, Mbit/s: down a moving picture in a page on one full-HD screen, and full-screen video on a 4K one;
 * up what the work sends, and the same with a large camera picture.
 */
export function checkRates({
  framesAtLeast,
  calls,
  camera,
}: CheckWanted): Record<'down' | 'up', { leastMbps: number; plentyMbps: number }> {
  const picture = (content: 'page-video' | 'video', activePixels: number) =>
    pictureDemand({ [content]: 1 }, { activePixels, idlePixels: 0, fps: framesAtLeast, codec: 'h264', chroma444: false }).meanMbps;
  const sending = inputMbps + (calls ? callMbps : 0);
  return {
    down: { leastMbps: picture('page-video', 1920 * 1080), plentyMbps: picture('video', 3840 * 2160) },
    up: { leastMbps: sending + (camera ? cameraMbps(cameraPx) : 0), plentyMbps: sending + cameraMbps(largeCameraPx) },
  };
}

const notMeasured: CheckJudged = { verdict: 'unknown', because: 'not measured' };
const tooFew: CheckJudged = { verdict: 'unknown', because: 'too few' };
const jitterOf = ({ datagrams, roundTrips }: Figures) => datagrams?.jitterMs ?? roundTrips?.jitterMs ?? 2;

/**
 * The round trip against what the work wants from key to pixel, with what any session adds around the way. Between what the leanest and
 * what the usual session adds it is not known: the check sees the way only.
 */
function quick(figures: Figures, wanted: CheckWanted): CheckJudged | null {
  const { roundTrips } = figures;
  if (!roundTrips) return null;
  if (roundTrips.samples < fewestRoundTrips) return tooFew;
  const rest = around(jitterOf(figures), wanted.framesAtLeast);
  const [low, high] = [roundTrips.medianLowMs + rest.leastMs, roundTrips.medianHighMs + rest.usualMs];
  const verdict = atMost({ low, high }, wanted.keyToPixelMs);
  // how often somebody fills the line the check does not know
  const addedMs = Math.max(figures.addedDownMs ?? 0, figures.addedUpMs ?? 0);
  return verdict === 'clear' && high + addedMs > wanted.keyToPixelMs ? { verdict: 'unknown', because: 'under load' } : { verdict };
}

/** Loss and delay variation: how a call sounds over them, whether sessions break off, and whether the picture sticks. */
function steady(figures: Figures, wanted: CheckWanted): CheckJudged | null {
  const { roundTrips, datagrams } = figures;
  if (!roundTrips || !datagrams) return roundTrips && figures.downMbps !== undefined ? notMeasured : null;
  if (!datagrams.passes || !datagrams.sent) return notMeasured;
  if (roundTrips.samples < fewestRoundTrips) return tooFew;
  const { low, high } = shareInterval(datagrams.sent, Math.min(datagrams.sent, datagrams.lost ?? 0));
  const spreadMs = Math.max(0, roundTrips.p95Ms - roundTrips.medianMs);
  const jitterMs = jitterOf(figures);
  const heard = (lossShare: number, rttMs: number) =>
    voiceOnEndpoint({ rttMs, jitterMs, spreadMs, lossPercent: 100 * lossShare, transport: 'udp' }).mos;
  const rest = around(jitterMs, wanted.framesAtLeast);
  const verdicts = [
    atLeast({ low: heard(high, roundTrips.medianHighMs), high: heard(low, roundTrips.medianLowMs) }, wanted.voiceMosAtLeast),
    atMost({ low: 100 * low, high: 100 * high }, wanted.lossAtMostPercent),
    // how far it varies alone: a way that is slow throughout is told as slow
    atMost({ low: spreadMs + rest.leastMs, high: spreadMs + rest.leastMs }, wanted.keyToPixelMs * worstDelayFactor),
  ];
  return { verdict: verdicts.includes('limited') ? 'limited' : verdicts.includes('unknown') ? 'unknown' : 'clear' };
}

const atLeastRate = (mbps: number | undefined, leastMbps: number): CheckJudged | null =>
  mbps === undefined ? null : { verdict: mbps >= leastMbps ? 'clear' : 'limited' };

function picture({ browser, scene }: Figures, { framesAtLeast }: CheckWanted): CheckJudged | null {
  if (!browser) return null;
  return scene ? { verdict: scene.averageFps >= framesAtLeast ? 'clear' : 'limited' } : notMeasured;
}

/**
 * What a field check says by itself, part by part, by the thresholds and formulas that the crossings are judged by. A part that is not
 * over yet is null. It looks at the way only, so Clear here is no promise for a session; a part that is Limited limits the sessions too.
 */
export function judgeCheck(figures: Figures, wanted: CheckWanted): Record<CheckPart, CheckJudged | null> {
  const { down, up } = checkRates(wanted);
  return {
    quick: quick(figures, wanted),
    steady: steady(figures, wanted),
    down: atLeastRate(figures.downMbps, down.leastMbps),
    up: atLeastRate(figures.upMbps, up.leastMbps),
    picture: picture(figures, wanted),
  };
}
