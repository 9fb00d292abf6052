import { UsbRule } from '../estate/peripheral.js';
import { defineKind } from './defineKind.js';

export const usbRule = defineKind({
  schema: UsbRule,
  file: 'usb-rules.yaml',
  references: { 'match.group': 'group' },
  words: { one: 'Redirection rule', many: 'Redirection rules' },
  list: [
    ['rank', 'Rank'],
    ['name', 'Name'],
    ['action', 'Action'],
    ['carryAs', 'Carried as'],
    ['when', 'When'],
  ],
  look: 24,
  // the first that fits decides: each stands before others
  touches: 'everything',
});
