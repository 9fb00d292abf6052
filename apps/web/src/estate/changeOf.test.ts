import { expect, test } from '@jest/globals';
import { Endpoint, fieldsOf } from '@underpass/contracts';
import { changeOf } from './changeOf.js';

const fields = fieldsOf('endpoint');
const before = Endpoint.parse({
  id: 'e1',
  name: 'One',
  location: 'here',
  deviceClass: 'laptop',
  ownership: 'managed',
  platform: 'desktop',
  processor: 'x86-64',
  clientKind: 'browser',
  cores: 4,
});
const line = { lineKind: 'fibre', metered: false } as const;
const setOf = (was: object, now: object) =>
  (changeOf('endpoint', fields, was as Record<string, unknown>, now as Record<string, unknown>)?.patches[0] as { set?: unknown })?.set;

test('a change names what differs: another value, one that went, a list as a whole', () => {
  expect(setOf(before, before)).toBeUndefined();
  const { cores: _, ...without } = before;
  expect(setOf(before, { ...without, name: 'Two', users: ['p'] })).toEqual({ name: 'Two', cores: null, users: ['p'] });
});

test('a line of one’s own comes and goes as a whole, and is changed by its fields', () => {
  expect(setOf(before, { ...before, line })).toEqual({ line });
  expect(setOf({ ...before, line }, before)).toEqual({ line: null });
  expect(setOf({ ...before, line }, { ...before, line: { ...line, downMbps: 20 } })).toEqual({ 'line.downMbps': 20 });
});

test('a new object is made', () => {
  expect(changeOf('endpoint', fields, null, before)?.patches).toEqual([{ do: 'create', kind: 'endpoint', id: 'e1', object: before }]);
});
