import { Gateway } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

export const gateway = defineKind({
  schema: Gateway,
  file: 'gateways.yaml',
  references: { region: 'region' },
  words: { one: 'Gateway', many: 'Gateways' },
  list: [
    ['region', 'Region'],
    ['address', 'Address'],
  ],
  look: 10,
  touches: [{ field: 'id', as: 'gateway' }],
});
