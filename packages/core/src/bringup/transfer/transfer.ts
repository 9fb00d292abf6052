/** How a file reaches the devices of a place. */
export type TransferWay = 'all at once' | 'one after the other' | 'once, then from a copy at the place';

/** A file that goes to the devices of one place. */
export interface Transfer {
  devices: number;
  /** Size of the file, MB of a million bytes. */
  sizeMB: number;
  /** Rate of the line towards the place, Mbit/s. */
  lineMbps: number;
  /** Rate within the place, Mbit/s; for the copy. */
  localMbps: number;
  way: TransferWay;
  /** When it begins, ms since 1970. */
  beginMs: number;
  /** Part of the line it may take at an instant, 0 to 1; the same within each quarter of an hour. */
  shareAt: (atMs: number) => number;
}

/** What the line carries of it in an hour. */
export interface TransferHour {
  /** When the hour begins, ms since 1970. */
  atMs: number;
  usedMbps: number;
  allowedMbps: number;
}

/** How a transfer goes. */
export interface TransferPlan {
  /** When each device has it, s from the beginning; null where it does not end within the time that is looked at. */
  finishesS: (number | null)[];
  /** When the last one has it, s from the beginning; null where it does not end. */
  endS: number | null;
  /** On average, s; null where it does not end. */
  meanS: number | null;
  /** Until it ends, hour by hour; at most four days. */
  hours: TransferHour[];
}

const quarterMs = 900_000;
const hourMs = 3_600_000;
/** How far ahead is looked, ms. */
const horizonMs = 60 * 86_400_000;
const mostHours = 96;

/**
 * When each device of a place has a file: what has gone over the line is summed over the quarters of an hour, in each of which the
 * allowed part of it is the same. All at once share the line alike and end together; one after the other each has all of it; with a copy
 * at the place the line carries the file once.
 * @example 40 devices, 1000 MB, 20 Mbit/s, all of the line: 16 000 s at once; one after the other the mean is 8200 s
 */
export function planTransfer({ devices, sizeMB, lineMbps, localMbps, way, beginMs, shareAt }: Transfer): TransferPlan {
  const eachMbit = sizeMB * 8;
  const overLine = way === 'once, then from a copy at the place' ? eachMbit : eachMbit * devices;
  // how much has gone when a device has it: all of it, or as many files as there are before it
  const wanted = Array.from({ length: way === 'one after the other' ? devices : 1 }, (_, i) =>
    way === 'one after the other' ? eachMbit * (i + 1) : overLine,
  );
  const reached: number[] = [];
  const hours: TransferHour[] = [];
  let gone = 0;
  for (let at = beginMs; reached.length < wanted.length && at < beginMs + horizonMs;) {
    const until = (Math.floor(at / quarterMs) + 1) * quarterMs;
    const mbps = lineMbps * Math.min(1, Math.max(0, shareAt(at)));
    const room = (mbps * (until - at)) / 1000;
    while (reached.length < wanted.length && gone + room >= (wanted[reached.length] as number) - 1e-9)
      reached.push((at - beginMs) / 1000 + (mbps > 0 ? ((wanted[reached.length] as number) - gone) / mbps : 0));
    const took = Math.min(room, overLine - gone);
    note(hours, at, took, mbps, until);
    gone += took;
    at = until;
  }
  const inside = way === 'once, then from a copy at the place' ? (eachMbit * devices) / localMbps : 0;
  const finishesS = Array.from({ length: devices }, (_, i): number | null => {
    const own = reached[way === 'one after the other' ? i : 0];
    return own === undefined ? null : own + inside;
  });
  const known = finishesS.filter((s): s is number => s !== null);
  const isWhole = known.length === devices && devices > 0;
  return {
    finishesS,
    endS: isWhole ? Math.max(...known) : null,
    meanS: isWhole ? known.reduce((sum, s) => sum + s, 0) / devices : null,
    hours,
  };
}

/** Adds what a quarter carried to its hour. */
function note(hours: TransferHour[], atMs: number, tookMbit: number, mbps: number, untilMs: number): void {
  const begins = Math.floor(atMs / hourMs) * hourMs;
  let hour = hours.at(-1);
  if (hour?.atMs !== begins) {
    if (hours.length >= mostHours) return;
    hours.push((hour = { atMs: begins, usedMbps: 0, allowedMbps: 0 }));
  }
  hour.usedMbps += tookMbit / (hourMs / 1000);
  hour.allowedMbps += (mbps * (untilMs - atMs)) / hourMs;
}

/**
 * How long a transfer takes on average where the line breaks now and then and it begins anew each time, s; with resuming it takes as long
 * as without breaks. The line lasts 1/λ on average, exponentially [handbook of the trade: (e^{λT} − 1)/λ].
 * @param uninterruptedS how long it takes without breaks, s
 * @param breaksPerHour how often the line breaks, on average
 * @example an hour's transfer over a line that breaks once an hour takes 1.72 h
 */
export function withoutResumingS(uninterruptedS: number, breaksPerHour: number): number {
  if (breaksPerHour === 0) return uninterruptedS;
  const perS = breaksPerHour / 3600;
  return Math.expm1(perS * uninterruptedS) / perS;
}
