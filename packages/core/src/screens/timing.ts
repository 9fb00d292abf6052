/** A video timing: pixel clock in MHz, totals in pixels and lines. */
export interface Timing {
  clockMhz: number;
  totalWidthPx: number;
  totalLines: number;
}

/** A timing in full: where the sync pulses begin and end, in pixels and lines, and how often a second the picture is drawn. */
export interface FullTiming extends Timing {
  hsyncStart: number;
  hsyncEnd: number;
  vsyncStart: number;
  vsyncEnd: number;
  refreshHz: number;
}

/** Pixels that are counted together, and the step of the clock, MHz. */
const cell = 8;
const clockStepMhz = 0.25;
/** Lines before the vertical sync, and at least so many behind it. */
const frontLines = 3;
const leastBackLines = 7;

/** Coordinated video timing with reduced blanking, version 1 [VESA CVT 1.2 §3.4.2]: 160 px and at least 460 µs of blanking. */
export function reducedBlanking(widthPx: number, heightPx: number, refreshHz: number): Timing {
  const { clockMhz, totalWidthPx, totalLines } = cvt(widthPx, heightPx, refreshHz, true);
  return { clockMhz, totalWidthPx, totalLines };
}

/**
 * Coordinated video timing [VESA CVT 1.2]: as tubes needed it, or with the reduced blanking of version 1 for flat screens. Without
 * margins, and not interlaced. A width that is no multiple of 8 is rounded down.
 * @param refreshHz pictures a second, below 1e6 ÷ 550 (or 460 reduced)
 * @example cvt(1920, 1080, 60, false).clockMhz is 173
 */
export function cvt(widthPx: number, heightPx: number, refreshHz: number, reduced: boolean): FullTiming {
  const width = Math.floor(widthPx / cell) * cell;
  const syncLines = syncOf(widthPx, heightPx);
  const timing = reduced ? flat(width, heightPx, refreshHz, syncLines) : tube(width, heightPx, refreshHz, syncLines);
  return { ...timing, refreshHz: (timing.clockMhz * 1e6) / (timing.totalWidthPx * timing.totalLines) };
}

type Unrefreshed = Omit<FullTiming, 'refreshHz'>;
const stepped = (mhz: number): number => clockStepMhz * Math.floor(mhz / clockStepMhz);

function flat(width: number, height: number, refreshHz: number, syncLines: number): Unrefreshed {
  const linePeriodUs = (1e6 / refreshHz - 460) / height;
  const blankLines = Math.max(Math.floor(460 / linePeriodUs) + 1, frontLines + syncLines + leastBackLines);
  const totalLines = height + blankLines;
  const totalWidthPx = width + 160;
  return {
    clockMhz: stepped((refreshHz * totalLines * totalWidthPx) / 1e6),
    totalWidthPx,
    totalLines,
    hsyncStart: width + 48,
    hsyncEnd: width + 80,
    vsyncStart: height + frontLines,
    vsyncEnd: height + frontLines + syncLines,
  };
}

function tube(width: number, height: number, refreshHz: number, syncLines: number): Unrefreshed {
  const linePeriodUs = (1e6 / refreshHz - 550) / (height + frontLines);
  const behindLines = Math.max(Math.floor(550 / linePeriodUs) + 1, syncLines + leastBackLines);
  const totalLines = height + behindLines + frontLines;
  // the share of a line that is blank, %, by the formula of the older GTF, at least a fifth
  const blankPercent = Math.max(20, 30 - (300 * linePeriodUs) / 1000);
  const blank = Math.floor((width * blankPercent) / (100 - blankPercent) / (2 * cell)) * 2 * cell;
  const totalWidthPx = width + blank;
  const sync = Math.floor((0.08 * totalWidthPx) / cell) * cell;
  return {
    clockMhz: stepped(totalWidthPx / linePeriodUs),
    totalWidthPx,
    totalLines,
    hsyncStart: width + blank / 2 - sync,
    hsyncEnd: width + blank / 2,
    vsyncStart: height + frontLines,
    vsyncEnd: height + frontLines + syncLines,
  };
}

/** Lines of vertical sync, which tell the aspect ratio; a size that is none of these exactly has ten [VESA CVT 1.2 table 2]. */
function syncOf(width: number, height: number): number {
  const is = (a: number, b: number) => width * b === height * a;
  if (is(4, 3)) return 4;
  if (is(16, 9)) return 5;
  if (is(16, 10)) return 6;
  return is(5, 4) || is(15, 9) ? 7 : 10;
}
