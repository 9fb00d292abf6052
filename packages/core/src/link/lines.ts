import type { LineKind } from '@underpass/contracts';

/** What is taken of a kind of line where nothing is measured. */
export interface LineDefaults {
  words: string;
  /** Round trip to the first router and on to a near data centre, ms. */
  delayLowMs: number;
  delayHighMs: number;
  /** Share of the rate lost to framing. */
  framingShare: number;
  /** What to say beside the assumed delay. */
  note: string;
}

/** Starting figures where nothing is measured; common practice, no source. Always shown as assumed. */
export const lineDefaults: Record<LineKind, LineDefaults> = {
  fibre: { words: 'Fibre', delayLowMs: 5, delayHighMs: 15, framingShare: 0.05, note: 'Fibre and the distance; common practice' },
  cable: { words: 'Cable', delayLowMs: 10, delayHighMs: 30, framingShare: 0.05, note: 'Cable and the distance; common practice' },
  dsl: { words: 'DSL', delayLowMs: 20, delayHighMs: 40, framingShare: 0.1, note: 'DSL and the distance; common practice' },
  '4g': { words: '4G', delayLowMs: 40, delayHighMs: 70, framingShare: 0.05, note: '4G and the distance; common practice' },
  '5g': { words: '5G', delayLowMs: 15, delayHighMs: 40, framingShare: 0.05, note: '5G and the distance; common practice' },
  radio: { words: 'Radio', delayLowMs: 20, delayHighMs: 80, framingShare: 0.1, note: 'Radio and the distance; common practice' },
  'leo-satellite': {
    words: 'Low-orbit satellite',
    delayLowMs: 30,
    delayHighMs: 60,
    framingShare: 0.05,
    note: 'Low-orbit satellite and the distance; common practice',
  },
  'geo-satellite': {
    words: 'Geostationary satellite',
    delayLowMs: 550,
    delayHighMs: 650,
    framingShare: 0.05,
    note: 'Geostationary satellite and the distance; common practice',
  },
};

/** 4 × 35 786 km / c: up and down, there and back. No measured round trip can be below it. */
export const geostationaryFloorMs = (4 * 35_786_000) / 299_792.458;
