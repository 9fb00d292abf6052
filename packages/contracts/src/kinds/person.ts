import { Person } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

export const person = defineKind({
  schema: Person,
  file: 'people.csv',
  references: { location: 'location', groups: 'group', 'guest.owner': 'person' },
  words: { one: 'Person', many: 'People' },
  list: [
    ['kind', 'Kind'],
    ['location', 'Location'],
    ['groups', 'Groups'],
  ],
  look: 2,
  touches: [{ field: 'id', as: 'person' }],
});
