import type { SettingValues } from '../settings/index.js';
import { lineDemandOf, type DemandFacts } from './demandOf.js';
import type { Assumed } from '../assumed/index.js';
import type { CrossingFacts, OtherDemand } from './facts.js';
import { FirstOf } from './firstOf.js';
import { endpointNumber } from './said.js';

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

/** What one crossing asks of its line, in the whole numbers of a tally. */
type Ask = Pick<LineTally, 'sum' | 'squares' | 'upSum' | 'upSquares'>;

/** What decides it. */
type AskFacts = Required<DemandFacts> & { settings: SettingValues };

function askOf(facts: AskFacts): Ask {
  const { meanMbps, sdMbps, upMbps } = lineDemandOf(facts, facts.settings);
  return {
    sum: Math.round(meanMbps * 1e6),
    squares: Math.round((sdMbps * sdMbps + meanMbps * meanMbps) * 1e6),
    upSum: Math.round(upMbps * 1e6),
    upSquares: Math.round(upMbps * upMbps * 1e6),
  };
}
const askAlike = (a: AskFacts, b: AskFacts): boolean =>
  a.settings === b.settings && a.evidence === b.evidence && a.gateway === b.gateway && a.devices === b.devices;
/** So many are kept of what they ask. */
const mostKept = 2000;

/** What crossings ask of their line: of those that are alike in all that decides it, one is worked out and holds for all. */
export class Asks {
  private readonly first = new FirstOf(mostKept, askAlike, askOf);

  of(facts: AskFacts): Ask {
    return this.first.of(facts, facts.resource, endpointNumber(facts.endpoint));
  }
}

/** Adds (1) or takes away (−1) what one crossing asks. */
export const counted = (tally: LineTally, ask: Ask, sign: 1 | -1): LineTally => ({
  crossings: tally.crossings + sign,
  people: tally.people,
  sum: tally.sum + sign * ask.sum,
  squares: tally.squares + sign * ask.squares,
  upSum: tally.upSum + sign * ask.upSum,
  upSquares: tally.upSquares + sign * ask.upSquares,
});

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
