import type { LineKind } from '@underpass/contracts';

export interface LineDefaults {
  words: string;
  /** Round trip to the first router and on to a near data centre, ms. */
  delayLowMs: number;
  delayHighMs: number;
  /** Share of the rate lost to framing. */
  framingShare: number;
}

/** Starting figures where nothing is measured; common practice, no source. Always shown as assumed. */
export const lineDefaults: Record<LineKind, LineDefaults> = {
  fibre: { words: 'Fibre', delayLowMs: 5, delayHighMs: 15, framingShare: 0.05 },
  cable: { words: 'Cable', delayLowMs: 10, delayHighMs: 30, framingShare: 0.05 },
  dsl: { words: 'DSL', delayLowMs: 20, delayHighMs: 40, framingShare: 0.1 },
  '4g': { words: '4G', delayLowMs: 40, delayHighMs: 70, framingShare: 0.05 },
  '5g': { words: '5G', delayLowMs: 15, delayHighMs: 40, framingShare: 0.05 },
  radio: { words: 'Radio', delayLowMs: 20, delayHighMs: 80, framingShare: 0.1 },
  'leo-satellite': { words: 'Low-orbit satellite', delayLowMs: 30, delayHighMs: 60, framingShare: 0.05 },
  'geo-satellite': { words: 'Geostationary satellite', delayLowMs: 550, delayHighMs: 650, framingShare: 0.05 },
};

/** 4 × 35 786 km / c: up and down, there and back. No measured round trip can be below it. */
export const geostationaryFloorMs = (4 * 35_786_000) / 299_792.458;
