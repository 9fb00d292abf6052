import type { LineOptions } from './line.js';

export interface DemoLine extends Pick<LineOptions, 'up' | 'down' | 'udpBlocked'> {
  name: string;
}

/** Lines of the demo: the field check can be opened "from" these places. Rates and delays are those of the invented estate. */
export const demoLines: readonly DemoLine[] = [
  { name: 'Wexcombe ticket hall', down: { delayMs: 12, rateMbps: 205, jitterMs: 2 }, up: { delayMs: 12, rateMbps: 41, jitterMs: 2 } },
  {
    name: 'a vessel by satellite',
    down: { delayMs: 305, rateMbps: 17, jitterMs: 12, lossPercent: 0.4 },
    up: { delayMs: 305, rateMbps: 2.4, jitterMs: 12, lossPercent: 0.4 },
  },
  {
    name: 'a home with weak Wi-Fi',
    down: { delayMs: 14, rateMbps: 44, jitterMs: 14, lossPercent: 1.2 },
    up: { delayMs: 14, rateMbps: 8, jitterMs: 14, lossPercent: 1.2 },
  },
];
