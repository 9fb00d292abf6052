import type { Bay, Change, ObjectKind } from '@underpass/contracts';
import type { Estimate } from '../units/index.js';
import type { CrossingFacts } from './facts.js';
import type { Aspect } from './question.js';
import type { CrossingFigures } from './figures.js';

/** A fact beneath a finding, with where it comes from. */
export interface EvidenceLine {
  source: Estimate['source'];
  text: string;
  notUsed?: boolean;
}

/** A change that might help, before its effect is computed. `ask` is for what somebody must find out or do outside. */
export interface Proposal {
  text: string;
  change: Change;
  /** What is gained where nothing can be evaluated, such as a figure becoming known. */
  ask?: string;
  /** The object at which it is written down once it is known or done. */
  at?: { kind: ObjectKind; id: string };
}

/** What a kind of finding found on a crossing, before its remedies are evaluated. */
export interface Found {
  text: string;
  /** On one scale: blocked sign-in 1000, device or screen 500, below a threshold 200 to 400, seconds 100, risk 20, not known 5. */
  cost: number;
  costText: string;
  sure: 'sure' | 'likely' | 'rests on an assumption';
  /** What it rests on, put into words only where it is looked at. */
  evidence: () => EvidenceLine[];
  /** What might help, thought of only where it is looked at. */
  remedies: () => Proposal[];
  /** Where it lies, where that is not always where its kind does. */
  bay?: Bay;
  /** What it holds back on this crossing, where that is not all that its kind may; nothing: it is told as a risk. */
  limits?: readonly Aspect[];
}

/** A kind of finding: when it is there and what might help. Registered in `findings/index.ts`. */
export interface FindingKind {
  kind: string;
  bay: Bay;
  /** How bad it is for the person: it decides the verdict shown beside it. */
  weight: 'blocked' | 'limited' | 'unknown' | 'risk';
  /** What it may hold back, for a kind that limits. */
  limits?: readonly Aspect[];
  /** Told only where an aspect is short and nothing else says why. */
  rest?: true;
  /** Kinds that are told beneath this one where both are there: the same root cause is told once. */
  explains?: readonly string[];
  detect: (facts: CrossingFacts, figures: CrossingFigures) => Found | null;
}

/** What each sort of shortage costs, on one scale, so that findings can be put in order; common practice, no source. */
export const cost = {
  blocked: 1000,
  device: 500,
  /** Below a threshold, in proportion to how far: share is 0 (just) to 1 (nothing left). */
  short: (share: number): number => 200 + 200 * Math.min(1, Math.max(0, share)),
  /** Too few frames: in proportion, and a picture that stands still is as bad as a screen that is not there and more. */
  frames: (frames: number, wanted: number): number => {
    const share = Math.min(1, Math.max(0.05, 1 - frames / wanted));
    return frames < wanted ? 200 + 200 * share + 1600 * Math.max(0, share - 0.75) : 35;
  },
  waiting: (seconds: number): number => Math.min(150, 60 + seconds),
  risk: 20,
  notKnown: 5,
  /** Added where what is not known decides the verdict. */
  unknownFirst: 150,
} as const;

/** A figure as it is told: two significant digits, whole numbers in full. @example 12.34 is "12", 4.21 "4.2", 123.4 "123" */
export const figure = (value: number, digits = 2): string => {
  if (!Number.isFinite(value)) return 'without limit';
  // most figures: quicker than by their digits, and the same
  if (digits === 2 && value >= 10) return String(Math.round(value));
  const rounded = Number(value.toPrecision(Math.max(digits, Math.ceil(Math.log10(Math.max(1, Math.abs(value)))))));
  return String(rounded);
};
/** A rate as it is told, in Mbit/s. */
export const mbit = (mbps: number): string => `${figure(mbps)} Mbit/s`;
/** A time as it is told, in whole milliseconds. */
export const ms = (value: number): string => `${Math.round(value)} ms`;
/** A frame rate as it is told. @example 1.02 is "1 frame", 12.3 "12 frames" */
export const framesText = (rate: number): string => `${figure(rate)} frame${figure(rate) === '1' ? '' : 's'}`;
