import { expect, test } from '@jest/globals';
import { textOfValue } from '../src/intake/settle.js';

test('a value is told by the names of what it names, and part by part', () => {
  const names = (kind: string, id: string) => (id === 'wexcombe' ? `Wexcombe (${kind})` : undefined);
  const text = (kind: 'person' | 'endpoint', field: string, value: unknown) => textOfValue(kind, field, value, names);
  expect(text('person', 'location', 'wexcombe')).toBe('Wexcombe (location)');
  expect(text('person', 'location', 'gone')).toBe('gone');
  expect(text('person', 'name', 'wexcombe')).toBe('wexcombe');
  expect(text('person', 'groups', ['a', 'b'])).toBe('a, b');
  expect(text('endpoint', 'memoryMB', 8192)).toBe('8192');
  expect(text('endpoint', 'alwaysOn', false)).toBe('false');
  expect([text('endpoint', 'memoryMB', null), text('endpoint', 'memoryMB', undefined)]).toEqual(['', '']);
  expect(
    text('endpoint', 'screens', [
      { widthPx: 1920, heightPx: 1080, scale: 1 },
      { widthPx: 800, heightPx: 600, scale: 2 },
    ]),
  ).toBe('1920 × 1080, scale 1; 800 × 600, scale 2');
  expect(text('endpoint', 'line', { downMbps: 20, upMbps: 5 })).toBe('downMbps 20, upMbps 5');
});
