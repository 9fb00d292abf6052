import { FleetClass } from '../estate/bringup.js';
import { defineKind } from './defineKind.js';

export const deviceClass = defineKind({
  schema: FleetClass,
  file: 'device-classes.yaml',
  words: { one: 'Device class', many: 'Device classes' },
  list: [
    ['vendorClass', 'Says it is'],
    ['serverOption.code', 'Option'],
    ['serverOption.type', 'Read as'],
  ],
  look: 15,
  touches: 'nothing',
});
