import type { SettingSubject } from '../src/settings/index.js';

/** Somebody on a managed laptop inside, in two groups. */
export const subject: SettingSubject = {
  deviceClass: 'laptop',
  location: 'hall',
  groups: ['staff', 'planners'],
  person: 'p1',
  endpoint: 'e1',
  ownership: 'managed',
  lineKind: 'fibre',
  metered: false,
  clientKind: 'native client',
  guest: false,
  inside: true,
};
