import { Peripheral } from '../estate/peripheral.js';
import { defineKind } from './defineKind.js';

export const peripheral = defineKind({
  schema: Peripheral,
  file: 'devices.yaml',
  references: { endpoint: 'endpoint' },
  words: { one: 'Peripheral', many: 'Peripherals' },
  list: [
    ['name', 'Name'],
    ['endpoint', 'Endpoint'],
    ['vid', 'Vendor'],
    ['pid', 'Product'],
    ['class', 'Class'],
  ],
  look: 23,
  touches: [{ field: 'endpoint', as: 'endpoint' }],
});
