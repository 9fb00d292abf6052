import { RequirementSet } from '../estate/requirement.js';
import { defineKind } from './defineKind.js';

export const requirement = defineKind({
  schema: RequirementSet,
  file: 'requirements.yaml',
  words: { one: 'Requirement set', many: 'Requirement sets' },
  list: [['purpose', 'Purpose']],
  touches: 'gates',
  silent: ['name', 'purpose'],
  undemanding: true,
});
