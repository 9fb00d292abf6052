import type { SettingValues } from '../settings/index.js';
import { lineDemandOf, type DemandFacts } from './demandOf.js';
import type { Assumed } from '../assumed/index.js';
import type { CrossingFacts, OtherDemand } from './facts.js';

/**
 * What the crossings of a location ask of its line, in whole numbers: sums of them are exact, so that adding and taking away in any
 * order comes to the same as counting anew.
 */
export interface LineTally {
  crossings: number;
  people: number;
  /** Sum of the means, bit/s. */
  sum: number;
  /** Sum of the squared deviations and means, millionths of (Mbit/s)². */
  squares: number;
  /** The same of what they send. */
  upSum: number;
  upSquares: number;
}
/** Nobody on the line, to be counted up. */
export const noTally: LineTally = { crossings: 0, people: 0, sum: 0, squares: 0, upSum: 0, upSquares: 0 };

/** Adds (1) or takes away (−1) what one crossing asks. */
export function counted(tally: LineTally, facts: DemandFacts, settings: SettingValues, sign: 1 | -1): LineTally {
  const { meanMbps, sdMbps, upMbps } = lineDemandOf(facts, settings);
  return {
    ...tally,
    crossings: tally.crossings + sign,
    sum: tally.sum + sign * Math.round(meanMbps * 1e6),
    squares: tally.squares + sign * Math.round((sdMbps * sdMbps + meanMbps * meanMbps) * 1e6),
    upSum: tally.upSum + sign * Math.round(upMbps * 1e6),
    upSquares: tally.upSquares + sign * Math.round(upMbps * upMbps * 1e6),
  };
}

/** Nobody else is on the line. */
export const alone: OtherDemand = {
  count: 0,
  activeShare: 0,
  activeLow: 0,
  activeHigh: 0,
  meanMbps: 0,
  sdMbps: 0,
  upMeanMbps: 0,
  upSdMbps: 0,
};
const spread = (squares: number, crossings: number, mean: number) => Math.sqrt(Math.max(0, squares / 1e6 / crossings - mean * mean));

/** What the others on the line ask while active, from everybody's crossings there. */
export function othersOf(
  { crossings, people, sum, squares, upSum, upSquares }: LineTally,
  location: CrossingFacts['location'],
  usual: Assumed['people'],
): OtherDemand {
  if (crossings === 0 || location.ownLines) return alone;
  const meanMbps = sum / 1e6 / crossings;
  const upMeanMbps = upSum / 1e6 / crossings;
  const typed = location.activeShare;
  return {
    count: Math.max(0, (location.sharedBy ?? people) - 1),
    activeShare: typed ?? usual.activeShare,
    activeLow: typed ?? usual.activeLow,
    activeHigh: typed ?? usual.activeHigh,
    meanMbps,
    sdMbps: spread(squares, crossings, meanMbps),
    upMeanMbps,
    upSdMbps: spread(upSquares, crossings, upMeanMbps),
  };
}
