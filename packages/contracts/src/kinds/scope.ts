import { Scope } from '../estate/bringup.js';
import { defineKind } from './defineKind.js';

export const scope = defineKind({
  schema: Scope,
  file: 'scopes.yaml',
  references: { location: 'location' },
  words: { one: 'Address scope', many: 'Address scopes' },
  list: [
    ['location', 'Location'],
    ['server', 'Server'],
    ['addressRange', 'Addresses'],
    ['free', 'Free'],
    ['vendorClass', 'For'],
  ],
  look: 16,
  touches: 'nothing',
});
