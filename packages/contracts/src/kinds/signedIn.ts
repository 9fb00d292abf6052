import { SignedIn } from '../estate/access.js';
import { defineKind } from './defineKind.js';

export const signedIn = defineKind({
  schema: SignedIn,
  file: 'signed-in.csv',
  references: { id: 'person' },
  words: { one: 'Sign-in', many: 'Sign-ins' },
  list: [
    ['at', 'At'],
    ['portal', 'Portal'],
    ['groups', 'Groups then'],
  ],
  look: 13,
  // a sign-in changes what a person sees now, not what happens on their crossings
  touches: 'nothing',
  undemanding: true,
  reported: true,
});
