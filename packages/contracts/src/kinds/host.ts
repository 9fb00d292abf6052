import { Host } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

export const host = defineKind({
  schema: Host,
  file: 'hosts.csv',
  references: { pool: 'pool', region: 'region' },
  words: { one: 'Host', many: 'Hosts' },
  list: [
    ['pool', 'Pool'],
    ['region', 'Region'],
    ['power', 'Power'],
    ['places', 'Places'],
    ['used', 'Used'],
  ],
  look: 8,
  touches: [{ field: 'pool', as: 'pool' }],
  undemanding: true,
});
