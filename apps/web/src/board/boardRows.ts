import { clock, type Board } from '@underpass/core';
import type { Counts } from '../ui/PeopleBar.js';

export const notClear = (counts: Counts): number => counts.blocked + counts.limited + counts.unknown;
export const totalOf = (counts: Counts): number => notClear(counts) + counts.clear;

/** What is beneath the name of a row: its line or how many places it stands for, and the hour in which most are at their worst. */
export function noteOf({ place, locations, worstHour }: Board['rows'][number]): string {
  const worst = worstHour && `worst ${clock(worstHour.hour)}`;
  const line = place?.downMbps ? `${place.downMbps} Mbit/s` : 'line rate not known';
  const where =
    locations.length > 1 ? `${locations.length} places` : !place ? null : place.ownLines ? 'own lines' : worst ? line : `one line, ${line}`;
  return [where, worst].filter(Boolean).join(', ');
}
