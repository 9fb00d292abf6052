import { Organisation } from '../estate/organisation.js';
import type { z } from 'zod';
import { defineKind } from './defineKind.js';
import { halfAWorkingDay } from './location.js';

export const organisation = defineKind({
  schema: Organisation,
  file: 'organisation.yaml',
  references: { checkRegion: 'region' },
  words: { one: 'Organisation', many: 'Organisation' },
  list: [['helpDesk', 'Help desk']],
  look: 15,
  touches: 'everything',
  silent: ['name', 'helpDesk', 'checkRegion', 'signonRules', 'signInsPerDay', 'workingDays', 'worksOn'],
  faults: ({ organisation = [] }) => halfAWorkingDay(organisation as readonly z.infer<typeof Organisation>[]),
  undemanding: true,
});
