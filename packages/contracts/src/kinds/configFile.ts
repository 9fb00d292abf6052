import { ConfigFile } from '../estate/bringup.js';
import { defineKind } from './defineKind.js';

export const configFile = defineKind({
  schema: ConfigFile,
  file: 'config-files.yaml',
  words: { one: 'Configuration file', many: 'Configuration files' },
  list: [
    ['layer', 'Layer'],
    ['target', 'For'],
  ],
  look: 18,
  touches: 'nothing',
});
