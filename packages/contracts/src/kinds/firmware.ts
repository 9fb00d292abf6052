import { Firmware } from '../estate/bringup.js';
import { defineKind } from './defineKind.js';

export const firmware = defineKind({
  schema: Firmware,
  file: 'firmware.csv',
  words: { one: 'Firmware file', many: 'Firmware files' },
  list: [
    ['deviceClass', 'Device'],
    ['version', 'Version'],
    ['processor', 'Processor'],
    ['sizeMB', 'Size, MB'],
  ],
  look: 19,
  touches: 'nothing',
});
