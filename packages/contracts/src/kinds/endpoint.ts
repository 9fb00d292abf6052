import { Endpoint } from '../estate/endpoint.js';
import { defineKind } from './defineKind.js';

export const endpoint = defineKind({
  schema: Endpoint,
  file: 'endpoints.csv',
  references: { location: 'location', person: 'person', users: 'person' },
  words: { one: 'Endpoint', many: 'Endpoints' },
  list: [
    ['deviceClass', 'Device'],
    ['location', 'Location'],
    ['person', 'Person'],
    ['clientKind', 'Client'],
    ['clientVersion', 'Version'],
    ['ownership', 'Ownership'],
  ],
  look: 3,
  touches: [{ field: 'id', as: 'endpoint' }],
  silent: ['name', 'reportedAt', 'wifi', 'cable', 'firmware', 'clock', 'model', 'bootMode'],
  secrets: ['wifi.key'],
});
