import { Pool } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

export const pool = defineKind({
  schema: Pool,
  file: 'pools.yaml',
  references: { gateway: 'gateway' },
  words: { one: 'Pool', many: 'Pools' },
  list: [
    ['gateway', 'Gateway'],
    ['placement', 'Placement'],
    ['spareHosts', 'Spare hosts'],
  ],
  look: 9,
  touches: [{ field: 'id', as: 'pool' }],
});
