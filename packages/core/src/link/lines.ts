import type { LineKind } from '@underpass/contracts';

/** What is taken of a kind of line where nothing is measured. */
export interface LineDefaults {
  words: string;
  /** Round trip to the first router and on to a near data centre, ms. */
  delayLowMs: number;
  delayHighMs: number;
  /** Share of a declared rate that goes to framing; a measured rate has it off already. */
  framingShare: number;
  /** How far the worst twentieth of the round trips may lie above their median where nobody measured, ms. */
  spreadHighMs: number;
  /** Loss that is not ruled out where nobody measured, percent. */
  lossHighPercent: number;
  /** What to say beside the assumed delay. */
  note: string;
}

/** Starting figures where nothing is measured; common practice, no source. Always shown as assumed. */
export const lineDefaults: Record<LineKind, LineDefaults> = {
  fibre: {
    words: 'Fibre',
    delayLowMs: 5,
    delayHighMs: 15,
    framingShare: 0.05,
    spreadHighMs: 5,
    lossHighPercent: 1,
    note: 'Fibre and the distance; common practice',
  },
  cable: {
    words: 'Cable',
    delayLowMs: 10,
    delayHighMs: 30,
    framingShare: 0.05,
    spreadHighMs: 15,
    lossHighPercent: 1,
    note: 'Cable and the distance; common practice',
  },
  dsl: {
    words: 'DSL',
    delayLowMs: 20,
    delayHighMs: 40,
    framingShare: 0.1,
    spreadHighMs: 10,
    lossHighPercent: 1,
    note: 'DSL and the distance; common practice',
  },
  '4g': {
    words: '4G',
    delayLowMs: 40,
    delayHighMs: 70,
    framingShare: 0.05,
    spreadHighMs: 50,
    lossHighPercent: 3,
    note: '4G and the distance; common practice',
  },
  '5g': {
    words: '5G',
    delayLowMs: 15,
    delayHighMs: 40,
    framingShare: 0.05,
    spreadHighMs: 30,
    lossHighPercent: 3,
    note: '5G and the distance; common practice',
  },
  radio: {
    words: 'Radio',
    delayLowMs: 20,
    delayHighMs: 80,
    framingShare: 0.1,
    spreadHighMs: 40,
    lossHighPercent: 3,
    note: 'Radio and the distance; common practice',
  },
  'leo-satellite': {
    words: 'Low-orbit satellite',
    delayLowMs: 30,
    delayHighMs: 60,
    framingShare: 0.05,
    spreadHighMs: 40,
    lossHighPercent: 3,
    note: 'Low-orbit satellite and the distance; common practice',
  },
  'geo-satellite': {
    words: 'Geostationary satellite',
    delayLowMs: 550,
    delayHighMs: 650,
    framingShare: 0.05,
    spreadHighMs: 60,
    lossHighPercent: 3,
    note: 'Geostationary satellite and the distance; common practice',
  },
};

/** 4 × 35 786 km / c: up and down, there and back. No measured round trip can be below it. */
export const geostationaryFloorMs = (4 * 35_786_000) / 299_792.458;

/** What Wi-Fi adds where nobody measured it: wait of the worst twentieth in ms, and loss in percent; common practice, no source. */
export const wifiDefaults = { waitMs: 8, waitLowMs: 3, waitHighMs: 20, lossHighPercent: 2 } as const;
/** A full line adds up to this where nobody measured it, ms: the upper end of what is graded fair to poor; common practice, no source. */
export const addedUnderLoadHighMs = 100;
