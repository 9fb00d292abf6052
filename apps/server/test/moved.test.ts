import { describe, expect, test } from '@jest/globals';
import type { CrossingRef, Summary } from '@underpass/core';
import type { Verdict } from '@underpass/contracts';
import { movedBy, nobodyMoved } from '../src/crossing/moved.js';

const crossing = (id: string, person: string, verdict: Verdict) => [{ id, person } as CrossingRef, { verdict } as Summary] as const;
const before = (known: Record<string, Verdict>) => (id: string) => (known[id] ? ({ verdict: known[id] } as Summary) : undefined);

describe('whose verdict became another', () => {
  test('is counted by crossing, and each person once', () => {
    const found = [
      crossing('a', 'P1', 'clear'),
      crossing('b', 'P1', 'blocked'),
      crossing('c', 'P2', 'unknown'),
      crossing('d', 'P3', 'limited'),
      crossing('e', 'P4', 'clear'),
    ];
    const known = before({ a: 'unknown', b: 'limited', c: 'clear', d: 'limited' });
    expect(movedBy(found, known, [{ id: 'f', person: 'P5' } as CrossingRef])).toEqual({ people: 4, better: 1, worse: 2, come: 1, gone: 1 });
  });

  test('is nobody where all came out as before', () => {
    expect(movedBy([crossing('a', 'P1', 'clear')], before({ a: 'clear' }), [])).toEqual(nobodyMoved);
  });
});
