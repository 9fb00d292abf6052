import { Group } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

export const group = defineKind({
  schema: Group,
  file: 'groups.csv',
  references: { memberOf: 'group', publications: 'publication' },
  words: { one: 'Group', many: 'Groups' },
  list: [
    ['rank', 'Rank'],
    ['memberOf', 'Member of'],
    ['publications', 'Publications'],
  ],
  look: 5,
  touches: [{ field: 'id', as: 'group' }],
  silent: ['name'],
});
