import { binomialCdf } from '../link/binomial.js';

/** How a picture's stream mends what the way loses. `tcp` is every stream over TCP, the others are over UDP. */
export type LossRepair = 'resend' | 'forward' | 'none' | 'tcp';

/** A stream of frames on a way that loses. */
export interface LossyStream {
  /** Frames a second that would arrive without loss. */
  fps: number;
  /** Bits of one frame. */
  frameBits: number;
  /** Part of the datagrams that is lost, 0 to 1, each for itself. */
  lossShare: number;
  rttMs: number;
  repair: LossRepair;
  /** Repair datagrams for each of the picture's, with `forward`; 0 to 1. */
  repairShare: number;
  /** Wait of TCP until it sends anew what nothing followed, ms. */
  timeoutMs: number;
}

/** What loss leaves of the frames. */
export interface AfterLoss {
  /** Frames a second that are there in time and whole. */
  fps: number;
  /** Added delay of the median frame, of all frames (their mean) and of the worst twentieth (their mean, so that nothing leaps at 5 %), ms. */
  addedP50Ms: number;
  addedMeanMs: number;
  addedP95Ms: number;
  /** Part of the frames that is shown with holes in it, 0 to 1. */
  damagedShare: number;
}

/** Payload of a datagram, bytes: what every path carries; common practice, and the least that RFC 9000 §14 asks of a path. */
export const datagramBytes = 1200;
/** Most times that a datagram is sent again in this reckoning: above 20 % of loss everything has long gone wrong. */
const mostRounds = 12;
const worstPart = 0.05;

/** Datagrams of a frame, at least one. */
export const datagramsOf = (frameBits: number): number => Math.max(1, Math.ceil(frameBits / 8 / datagramBytes));

/**
 * Retransmission time-out of TCP, ms.
 * @param variationMs RTTVAR
 * @returns by the standard, SRTT + 4·RTTVAR and at least 1 s [RFC 6298 §2.3, §2.4]; as systems do, at least 200 ms (common practice,
 * no source); and with a probe for lost tails, twice the round trip [RFC 8985 §7.2]
 */
export const retransmissionTimeout = (rttMs: number, variationMs: number): { standardMs: number; usualMs: number; probeMs: number } => ({
  standardMs: Math.max(1000, rttMs + 4 * variationMs),
  usualMs: Math.max(200, rttMs + 4 * variationMs),
  probeMs: 2 * rttMs,
});

/** Without loss. */
const untouched = (fps: number): AfterLoss => ({ fps, addedP50Ms: 0, addedMeanMs: 0, addedP95Ms: 0, damagedShare: 0 });

/** How many later frames a wait holds up: a frame that is late by less than the time of a frame is seen before the next one. */
const heldUp = (waitMs: number, fps: number): number => Math.max(0, (waitMs * fps) / 1000 - 1);

/**
 * Frames a second above which more of them only wait for each other: where f · (1 − p)^(f · wait) is greatest. An encoder that adapts
 * sends no more.
 */
const mostUseful = (late: number, waitMs: number): number => {
  const each = -Math.log(1 - Math.min(0.999999, late)) * (waitMs / 1000);
  return each > 0 ? Math.max(1, 1 / each) : Infinity;
};

/**
 * What loss does to frames that are shown in order, the newest that is there.
 *
 * Sent again over UDP: a frame of n datagrams wants another round trip with chance 1 − (1 − p)^n, and a k-th one with 1 − (1 − p^k)^n.
 * Over TCP a loss is noticed after a round trip where three packets follow it, else by the time-out [RFC 5681 §3.2, RFC 6298]; a frame
 * has 3/n of its packets among its last three. A frame is shown where neither it nor one before it is waited for until the next is
 * there: so each frame that a wait outlasts takes the chance of that wait once more off it. With repair data a frame is whole unless
 * more is lost than was added (binomial); without any repair, unless anything is.
 * @example fps 30, 20 kbit a frame (3 datagrams), 1 % lost, 100 ms: 1 − 0.99³ = 0.0297 wait 3 frames long, less one: 30 · 0.9703² = 28.2
 */
export function framesAfterLoss({ fps: sent, frameBits, lossShare, rttMs, repair, repairShare, timeoutMs }: LossyStream): AfterLoss {
  if (lossShare <= 0 || sent <= 0) return untouched(sent);
  const p = Math.min(0.99, lossShare);
  const n = datagramsOf(frameBits);
  if (repair === 'forward' || repair === 'none') {
    const added = repair === 'forward' ? Math.ceil(n * repairShare) : 0;
    const damagedShare = 1 - binomialCdf(n + added, added, p);
    return { fps: sent * (1 - damagedShare), addedP50Ms: 0, addedMeanMs: 0, addedP95Ms: 0, damagedShare };
  }
  const late = 1 - Math.pow(1 - p, n);
  const fps = Math.min(sent, mostUseful(late, repair === 'tcp' ? Math.max(rttMs, (timeoutMs * 3) / Math.max(3, n)) : rttMs));
  if (repair === 'tcp') {
    const timedOut = late * Math.min(1, 3 / n);
    const worst = Math.min(timedOut, worstPart);
    const noticed = heldUp(Math.min(rttMs, timeoutMs), fps);
    return {
      fps: fps * Math.pow(1 - late, noticed) * Math.pow(1 - timedOut, heldUp(timeoutMs, fps) - noticed),
      addedMeanMs: (late - timedOut) * rttMs + timedOut * timeoutMs,
      addedP50Ms: timedOut > 0.5 ? timeoutMs : late > 0.5 ? rttMs : 0,
      addedP95Ms: (worst * timeoutMs + (Math.min(late, worstPart) - worst) * rttMs) / worstPart,
      damagedShare: 0,
    };
  }
  let shown = 1;
  let held = 0;
  let median = 0;
  let tail = 0;
  let mean = 0;
  let chance = late;
  for (let k = 1; k <= mostRounds && chance > 1e-6; k++) {
    const now = heldUp(k * rttMs, fps);
    shown *= Math.pow(1 - chance, now - held);
    held = now;
    if (chance > 0.5) median++;
    mean += chance;
    tail += Math.min(chance, worstPart);
    chance = 1 - Math.pow(1 - Math.pow(p, k + 1), n);
  }
  return {
    fps: fps * shown,
    addedP50Ms: median * rttMs,
    addedMeanMs: mean * rttMs,
    addedP95Ms: (tail / worstPart) * rttMs,
    damagedShare: 0,
  };
}

/**
 * Frames that are left where the way holds packets up now and then: one in twenty is late by more than the spread (P95 above the
 * median), and takes with it the frames that it outlasts.
 * @example 30 frames, spread 400 ms: 12 frames less one: 30 · 0.95^11 → 17.1
 */
export const framesAfterSpread = (fps: number, spreadMs: number): number =>
  fps <= 0 ? fps : fps * Math.pow(1 - worstPart, heldUp(spreadMs, fps));
