import { Location } from '../estate/objects.js';
import type { z } from 'zod';
import { defineKind, type KindFault } from './defineKind.js';

/** A working day has a beginning and an end, or neither. */
export const halfAWorkingDay = (
  all: readonly { id: string; worksFrom?: string | undefined; worksTo?: string | undefined }[],
): KindFault[] =>
  all
    .filter(({ worksFrom, worksTo }) => (worksFrom === undefined) !== (worksTo === undefined))
    .map(({ id, worksFrom }) => ({
      id,
      field: worksFrom === undefined ? 'worksFrom' : 'worksTo',
      problem: 'a working day has a beginning and an end',
      expected: 'a time such as 08:30, or neither of the two',
    }));

export const location = defineKind({
  schema: Location,
  file: 'locations.csv',
  words: { one: 'Location', many: 'Locations' },
  list: [
    ['kind', 'Kind'],
    ['lineKind', 'Line'],
    ['downMbps', 'Down, Mbit/s'],
    ['upMbps', 'Up, Mbit/s'],
    ['area', 'Board row'],
  ],
  look: 1,
  touches: [{ field: 'id', as: 'location' }],
  silent: ['name', 'area', 'addressRange', 'worksOn', 'kind', 'wifi'],
  secrets: ['wifi.key'],
  faults: ({ location = [] }) => halfAWorkingDay(location as readonly z.infer<typeof Location>[]),
});
