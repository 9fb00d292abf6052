import { Organisation } from '../estate/organisation.js';
import { defineKind } from './defineKind.js';

export const organisation = defineKind({
  schema: Organisation,
  file: 'organisation.yaml',
  references: { checkRegion: 'region' },
  words: { one: 'Organisation', many: 'Organisation' },
  list: [['helpDesk', 'Help desk']],
  look: 15,
  touches: 'everything',
  silent: ['name', 'helpDesk', 'checkRegion', 'signonRules', 'signInsPerDay', 'workingDays'],
  undemanding: true,
});
