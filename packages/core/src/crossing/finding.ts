import type { Bay, Change } from '@underpass/contracts';
import type { Estimate } from '../units/index.js';
import type { CrossingFacts } from './facts.js';
import type { CrossingFigures } from './figures.js';

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
}

export interface Found {
  text: string;
  /** On one scale: blocked sign-in 1000, device or screen 500, below a threshold 200 to 400, seconds 100, risk 20, not known 5. */
  cost: number;
  costText: string;
  sure: 'sure' | 'likely' | 'rests on an assumption';
  evidence: EvidenceLine[];
  remedies: Proposal[];
}

export interface FindingKind {
  kind: string;
  bay: Bay;
  /** How bad it is for the person: it decides the verdict shown beside it. */
  weight: 'blocked' | 'limited' | 'unknown' | 'risk';
  /** Kinds that are told beneath this one where both are there: the same root cause is told once. */
  explains?: readonly string[];
  detect: (facts: CrossingFacts, figures: CrossingFigures) => Found | null;
}

export const cost = {
  blocked: 1000,
  device: 500,
  /** Below a threshold, in proportion to how far: share is 0 (just) to 1 (nothing left). */
  short: (share: number): number => 200 + 200 * Math.min(1, Math.max(0, share)),
  waiting: (seconds: number): number => Math.min(150, 60 + seconds),
  risk: 20,
  notKnown: 5,
} as const;

export const figure = (value: number, digits = 2): string => {
  if (!Number.isFinite(value)) return 'without limit';
  const rounded = Number(value.toPrecision(Math.max(digits, Math.ceil(Math.log10(Math.max(1, Math.abs(value)))))));
  return String(rounded);
};
export const mbit = (mbps: number): string => `${figure(mbps)} Mbit/s`;
export const ms = (value: number): string => `${Math.round(value)} ms`;
export const plural = (n: number, word: string, many = `${word}s`): string => `${n} ${n === 1 ? word : many}`;
