import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { boreOutline } from './bore.js';
import { clipText } from './text.js';

test('the bore is one closed outline, symmetric about its axis, as thick in a bay as it is told', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: 1.5, max: 22, noNaN: true }), { minLength: 7, maxLength: 7 }), (half) => {
      const outline = boreOutline(half, 150, 66, 112);
      expect(outline.startsWith('M') && outline.endsWith('Z')).toBe(true);
      const points = [...outline.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)].map(([, x, y]) => [Number(x), Number(y)] as const);
      const mirrored = new Set(points.map(([x, y]) => `${x.toFixed(2)},${Math.abs(y - 112).toFixed(1)}`));
      for (const [x, y] of points) expect(mirrored.has(`${x.toFixed(2)},${Math.abs(y - 112).toFixed(1)}`)).toBe(true);
      expect(Math.min(...points.map(([x]) => x))).toBe(66);
      expect(Math.max(...points.map(([x]) => x))).toBe(66 + 7 * 150);
      half.forEach((h, i) =>
        expect(points.some(([x, y]) => x >= 66 + i * 150 && x <= 66 + (i + 1) * 150 && Math.abs(112 - y - h) < 0.01)).toBe(true),
      );
    }),
    { numRuns: 50 },
  );
});

test('a text that is too long ends in an ellipsis and never grows', () => {
  expect(clipText('Down 310 Mbit/s', 200)).toBe('Down 310 Mbit/s');
  expect(clipText('Thin client, managed', 90)).toBe('Thin client,…');
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), fc.integer({ min: 20, max: 300 }), (text, width) =>
      expect(clipText(text, width).length).toBeLessThanOrEqual(Math.max(text.length, 2)),
    ),
  );
});
