import { Resource } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

export const resource = defineKind({
  schema: Resource,
  file: 'resources.csv',
  references: { pool: 'pool', profileRegion: 'region' },
  words: { one: 'Resource', many: 'Resources' },
  list: [
    ['kind', 'Kind'],
    ['pool', 'Pool'],
    ['work', 'Work'],
  ],
  look: 4,
  touches: [{ field: 'id', as: 'resource' }],
});
