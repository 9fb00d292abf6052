import { ConfigServer } from '../estate/bringup.js';
import { defineKind } from './defineKind.js';

export const configServer = defineKind({
  schema: ConfigServer,
  file: 'config-servers.yaml',
  words: { one: 'Configuration server', many: 'Configuration servers' },
  list: [
    ['address', 'Address'],
    ['reachable', 'Answers'],
  ],
  look: 17,
  touches: 'nothing',
});
