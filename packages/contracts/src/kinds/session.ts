import { OpenSession } from '../estate/access.js';
import { defineKind } from './defineKind.js';

export const session = defineKind({
  schema: OpenSession,
  file: 'sessions.csv',
  references: { person: 'person', resource: 'resource' },
  words: { one: 'Session', many: 'Sessions' },
  list: [
    ['person', 'Person'],
    ['resource', 'Resource'],
    ['host', 'Host'],
    ['endpoint', 'Endpoint'],
    ['state', 'State'],
    ['usedAt', 'Last used'],
  ],
  look: 12,
  touches: [{ field: 'person', as: 'person' }],
  undemanding: true,
  reported: true,
});
