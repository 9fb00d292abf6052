import { Region } from '../estate/objects.js';
import { defineKind } from './defineKind.js';

export const region = defineKind({
  schema: Region,
  file: 'regions.yaml',
  words: { one: 'Region', many: 'Regions' },
  list: [
    ['latitude', 'Latitude'],
    ['longitude', 'Longitude'],
  ],
  look: 11,
  // where gateways and hosts stand is weighed for every crossing
  touches: 'everything',
  // what their clocks show is told where settings are checked
  silent: ['timeZone'],
});
