import { DeviceOption } from '../estate/bringup.js';
import { defineKind } from './defineKind.js';

export const deviceOption = defineKind({
  schema: DeviceOption,
  file: 'device-options.csv',
  words: { one: 'Device to buy', many: 'Devices to buy' },
  list: [
    ['name', 'Name'],
    ['purchase', 'Price'],
    ['licencePerYear', 'Licence a year'],
    ['lifeYears', 'Life, years'],
  ],
  look: 21,
  touches: 'nothing',
});
