import { Location } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

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
  silent: ['name', 'area', 'addressRange', 'timeZone', 'kind'],
});
