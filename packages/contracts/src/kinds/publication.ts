import { Publication } from '../estate/access.js';
import { defineKind } from './defineKind.js';

export const publication = defineKind({
  schema: Publication,
  file: 'publications.csv',
  references: { pool: 'pool', resources: 'resource', portals: 'portal' },
  words: { one: 'Publication', many: 'Publications' },
  list: [
    ['kind', 'Kind'],
    ['pool', 'Pool'],
    ['resources', 'Resources'],
    ['portals', 'Portals'],
  ],
  look: 6,
  touches: [{ field: 'id', as: 'publication' }],
  silent: ['name'],
});
