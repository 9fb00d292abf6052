import { Setting } from '../estate/setting.js';
import { defineKind } from './defineKind.js';

export const setting = defineKind({
  schema: Setting,
  file: 'settings.yaml',
  words: { one: 'Setting', many: 'Settings' },
  list: [
    ['layer', 'Layer'],
    ['target', 'For'],
    ['value', 'Value'],
    ['locked', 'Locked'],
  ],
  look: 14,
  touches: 'its layer',
});
