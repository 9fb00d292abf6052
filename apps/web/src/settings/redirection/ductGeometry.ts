import type { DuctsAnswer } from '@underpass/contracts';

export type Duct = DuctsAnswer['ducts'][number];
/** A duct with its place in the block, px. */
export interface PlacedDuct {
  duct: Duct;
  x: number;
  y: number;
  r: number;
}
/** The block with its ducts in two rows, by direction; what stays at the desk lies outside. */
export interface Bank {
  width: number;
  height: number;
  block: { x: number; y: number; width: number; height: number };
  /** Where the rows part. */
  middle: number;
  placed: PlacedDuct[];
}

const gutter = 78;
const top = 30;
const rowHeight = 132;
const least = 10;
const most = 34;
const slot = 88;

/** Radius by what is asked of the line: its area is in proportion, the smallest 10 px across. @param largest the largest asked, Mbit/s */
export const radiusOf = (mbps: number, largest: number): number =>
  Math.max(least / 2 + 3, most * Math.sqrt(Math.max(0, mbps) / Math.max(largest, 0.5)));

/** Whether a duct lies outside the block: it stays at the desk. */
export const isOutside = ({ carriedAs }: Duct): boolean => carriedAs === 'local only';

/** Ducts in two rows by direction, the largest first; what stays local at the right, outside. */
export function bankOf(ducts: readonly Duct[]): Bank {
  const largest = Math.max(0, ...ducts.filter((duct) => !isOutside(duct) && duct.carriedAs !== 'not allowed').map(({ mbps }) => mbps));
  const rows = (['to the session', 'back to the desk'] as const).map((direction) => ducts.filter((duct) => duct.direction === direction));
  const inside = Math.max(1, ...rows.map((row) => row.filter((duct) => !isOutside(duct)).length));
  const outside = Math.max(0, ...rows.map((row) => row.filter(isOutside).length));
  const blockWidth = inside * slot + 16;
  const placed = rows.flatMap((row, i) => {
    const y = top + 14 + i * rowHeight + 44;
    let [at, out] = [0, 0];
    return row.map((duct): PlacedDuct => {
      const isOut = isOutside(duct);
      const x = isOut ? gutter + blockWidth + 20 + slot * (out++ + 0.5) : gutter + 8 + slot * (at++ + 0.5);
      return { duct, x, y, r: isOut ? 13 : radiusOf(duct.mbps, largest) };
    });
  });
  return {
    width: gutter + blockWidth + (outside > 0 ? 20 + outside * slot : 0) + 8,
    height: top + 2 * rowHeight + 24,
    block: { x: gutter, y: top + 8, width: blockWidth, height: 2 * rowHeight + 8 },
    middle: top + 12 + rowHeight,
    placed,
  };
}
