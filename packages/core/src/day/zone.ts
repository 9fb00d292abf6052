import type { Weekday } from '@underpass/contracts';

const weekdays: readonly Weekday[] = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];

/** What the clock on the wall of a place shows: hours with their fraction, 0 up to 24, and the day. */
export interface LocalTime {
  hour: number;
  weekday: Weekday;
}

const formats = new Map<string, Intl.DateTimeFormat>();
function formatOf(zone: string): Intl.DateTimeFormat {
  let format = formats.get(zone);
  if (!format) {
    const options = { year: 'numeric', month: 'numeric', day: 'numeric', hour: 'numeric', minute: 'numeric', hourCycle: 'h23' } as const;
    try {
      format = new Intl.DateTimeFormat('en-GB', { ...options, timeZone: zone });
    } catch {
      // the files' readers refuse a zone that their machine's table does not have; an older table may lack it
      format = new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' });
    }
    if (formats.size < 1000) formats.set(zone, format);
  }
  return format;
}

/** Clocks are set forward and back at full quarters of an hour, and are off by full quarters: so a quarter has one offset. */
const quarterMs = 900_000;
const known = new Map<string, number>();

/** How far the clock of a zone is ahead of UTC at an instant, minutes. */
function offsetAt(atMs: number, zone: string): number {
  const quarter = Math.floor(atMs / quarterMs);
  const key = `${zone}|${quarter}`;
  let minutes = known.get(key);
  if (minutes === undefined) {
    const parts: Partial<Record<string, string>> = {};
    for (const { type, value } of formatOf(zone).formatToParts(quarter * quarterMs)) parts[type] = value;
    const { year, month, day, hour, minute } = parts;
    minutes = (Date.UTC(Number(year), Number(month) - 1, Number(day), Number(hour), Number(minute)) - quarter * quarterMs) / 60_000;
    if (known.size >= 20_000) known.clear();
    known.set(key, minutes);
  }
  return minutes;
}

/**
 * The local time at an instant, clock changes counted [IANA time zone database].
 * @param atMs ms since 1970, of a year with four digits
 * @example 2026-07-01T12:00Z in Europe/Oslo: Wednesday, 14
 */
export function localTime(atMs: number, zone: string): LocalTime {
  const minutes = Math.floor(atMs / 60_000) + offsetAt(atMs, zone);
  const days = Math.floor(minutes / 1440);
  // the first day of 1970 was a Thursday
  return { hour: (minutes - days * 1440) / 60, weekday: weekdays[(days + 3) % 7] as Weekday };
}
