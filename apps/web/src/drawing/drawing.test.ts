import { expect, test } from '@jest/globals';
import type { ChainNode } from '@underpass/contracts';
import fc from 'fast-check';
import { boreOutline } from './bore.js';
import { stationsOf } from './chainGeometry.js';
import { clipText } from './text.js';
import { comparedRows, type TimelineRow } from './timelineRows.js';

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

test('a chain keeps its order from left to right, each object in the column of its kind, and every gap where a link is missing', () => {
  const kinds = ['person', 'group', 'publication', 'portal', 'resource'] as const;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 3 }), fc.subarray([1, 2, 3, 4]), fc.integer({ min: 112, max: 400 }), (nested, gaps, column) => {
      const chain: ChainNode[] = kinds.flatMap((kind) =>
        Array.from({ length: kind === 'group' ? 1 + nested : 1 }, (_, i) => ({ kind, id: `${kind}${i}`, name: kind })),
      );
      // a missing link stands before the first object of a kind
      const nodes = chain.flatMap((node) => (gaps.some((at) => kinds[at] === node.kind) && node.id.endsWith('0') ? [null, node] : [node]));
      const stations = stationsOf(nodes, column, kinds);
      expect(stations.map(({ node }) => node)).toEqual(chain);
      for (const [i, { node, x, room, gap }] of stations.entries()) {
        expect(x).toBeGreaterThan(i === 0 ? 0 : stations[i - 1]!.x);
        expect(Math.floor(x / column)).toBe(kinds.indexOf(node.kind));
        expect(x + room).toBeLessThanOrEqual((kinds.indexOf(node.kind) + 1) * column);
        expect(gap).toBe(nodes[nodes.indexOf(node) - 1] === null);
      }
    }),
  );
  // what is told for many leaves the person out
  expect(
    stationsOf(
      [
        { kind: 'person', id: 'p', name: 'P' },
        { kind: 'group', id: 'g', name: 'G' },
      ],
      100,
      ['group', 'publication'],
    ).map(({ x }) => x),
  ).toEqual([6]);
});

test('a compared timeline keeps every step once, those of after in their order, those of before in theirs, and says which are gone', () => {
  const step = (name: string, startS: number): TimelineRow => ({
    name,
    startS,
    seconds: 1,
    source: 'assumed',
    byPerson: false,
    critical: true,
  });
  const names = ['a', 'b', 'c', 'd', 'e', 'f'];
  fc.assert(
    fc.property(fc.subarray(names), fc.subarray(names), (was, is) => {
      const before = was.map((name, i) => step(name, i));
      const after = is.map((name, i) => step(name, i + 0.5));
      const rows = comparedRows(after, before);
      const order = rows.map(({ name }) => name);
      expect(order.filter((name) => is.includes(name))).toEqual(is);
      expect(order.filter((name) => was.includes(name))).toEqual(was);
      expect(order).toHaveLength(new Set([...was, ...is]).size);
      for (const { name, gone, before: how, startS } of rows) {
        expect(gone ?? false).toBe(!is.includes(name));
        expect(how?.startS).toBe(was.includes(name) ? was.indexOf(name) : undefined);
        if (!gone) expect(startS).toBe(is.indexOf(name) + 0.5);
      }
    }),
  );
});
