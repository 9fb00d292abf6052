import { Portal } from '../estate/access.js';
import { defineKind } from './defineKind.js';

export const portal = defineKind({
  schema: Portal,
  file: 'portals.csv',
  references: { gateway: 'gateway' },
  words: { one: 'Portal', many: 'Portals' },
  list: [
    ['gateway', 'Gateway'],
    ['address', 'Address'],
  ],
  look: 7,
  touches: [{ field: 'id', as: 'portal' }],
  silent: ['name', 'address'],
  undemanding: true,
});
