import type { Location } from '@underpass/contracts';
import type { Assumed } from '../../assumed/index.js';
import { localTime, workingDay } from '../../day/index.js';

const order = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;

/** Whether a place works at an instant, by the clock there; a day that goes past midnight is that of its beginning. */
export function worksAt(
  location: Pick<Location, 'timeZone' | 'worksFrom' | 'worksTo' | 'worksOn'>,
  usual: Assumed['day'],
  atMs: number,
): boolean {
  const { hours, days } = workingDay(location, usual);
  const { hour, weekday } = localTime(atMs, location.timeZone);
  const full = Math.floor(hour);
  if (!hours.includes(full)) return false;
  const past = hours.length < 24 && full < (hours[0] as number);
  const begun = past ? order[(order.indexOf(weekday) + 6) % 7] : weekday;
  return begun !== undefined && days.includes(begun);
}

/** Part of a line that a transfer may take: one in working hours of the place, another outside of them. */
export const shareBy =
  (location: Parameters<typeof worksAt>[0], usual: Assumed['day'], working: number, outside: number) =>
  (atMs: number): number =>
    worksAt(location, usual, atMs) ? working : outside;
