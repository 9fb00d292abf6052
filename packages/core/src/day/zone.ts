import { Weekday, isTimeZone } from '@underpass/contracts';

/** What the clock on the wall of a place shows: hours with their fraction, 0 up to 24, and the day. */
export interface LocalTime {
  hour: number;
  weekday: Weekday;
}

const formats = new Map<string, Intl.DateTimeFormat>();
function formatOf(zone: string): Intl.DateTimeFormat {
  let known = formats.get(zone);
  if (!known) {
    const options = { hour: '2-digit', minute: '2-digit', weekday: 'short', hourCycle: 'h23' } as const;
    // a zone this machine's table does not have is taken as UTC: the files' readers refuse it, an older table may lack it
    known = new Intl.DateTimeFormat('en-GB', { ...options, timeZone: isTimeZone(zone) ? zone : 'UTC' });
    if (formats.size < 1000) formats.set(zone, known);
  }
  return known;
}

/**
 * The local time at an instant, clock changes counted [IANA time zone database].
 * @param atMs ms since 1970
 * @example 2026-07-01T12:00Z in Europe/Oslo: Wednesday, 14
 */
export function localTime(atMs: number, zone: string): LocalTime {
  const parts: Partial<Record<string, string>> = {};
  for (const { type, value } of formatOf(zone).formatToParts(atMs)) parts[type] = value;
  const { hour = '0', minute = '0', weekday = '' } = parts;
  return { hour: Number(hour) + Number(minute) / 60, weekday: Weekday.parse(weekday.toLowerCase().slice(0, 3)) };
}
