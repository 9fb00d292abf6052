/** A video timing: pixel clock in MHz, totals in pixels and lines. */
export interface Timing {
  clockMhz: number;
  totalWidthPx: number;
  totalLines: number;
}

/** Coordinated video timing with reduced blanking, version 1 [VESA CVT 1.2 §3.4.2]: 160 px and at least 460 µs of blanking. */
export function reducedBlanking(widthPx: number, heightPx: number, refreshHz: number): Timing {
  const width = Math.floor(widthPx / 8) * 8;
  const linePeriodUs = (1e6 / refreshHz - 460) / heightPx;
  const syncLines = syncOf(widthPx, heightPx);
  const blankLines = Math.max(Math.floor(460 / linePeriodUs) + 1, 3 + syncLines + 6);
  const totalLines = heightPx + blankLines;
  const totalWidthPx = width + 160;
  return { clockMhz: 0.25 * Math.floor((refreshHz * totalLines * totalWidthPx) / 1e6 / 0.25), totalWidthPx, totalLines };
}

/** Lines of vertical sync, which tell the aspect ratio [VESA CVT 1.2 table 2]. */
function syncOf(width: number, height: number): number {
  const is = (a: number, b: number) => Math.abs(width / height - a / b) < 0.01;
  if (is(4, 3)) return 4;
  if (is(16, 9)) return 5;
  if (is(16, 10)) return 6;
  if (is(5, 4) || is(15, 9)) return 7;
  return 10;
}
