import { describe, expect, test } from '@jest/globals';
import type { CrossingRef, Summary } from '@underpass/core';
import type { Verdict } from '@underpass/contracts';
import { movedBy, nobodyMoved } from '../src/crossing/moved.js';
import type { Result } from '../src/crossing/orderedResults.js';

const crossing = (id: string, person: string, verdict: Verdict, before?: Verdict) => ({
  ref: { id, person } as CrossingRef,
  summary: { verdict } as Summary,
  before: before && ({ summary: { verdict: before } } as Result),
});

describe('whose verdict became another', () => {
  test('is counted by crossing, and each person once', () => {
    const found = [
      crossing('a', 'P1', 'clear', 'unknown'),
      crossing('b', 'P1', 'blocked', 'limited'),
      crossing('c', 'P2', 'unknown', 'clear'),
      crossing('d', 'P3', 'limited', 'limited'),
      crossing('e', 'P4', 'clear'),
    ];
    expect(movedBy(found, [{ id: 'f', person: 'P5' } as CrossingRef])).toEqual({ people: 4, better: 1, worse: 2, come: 1, gone: 1 });
  });

  test('is nobody where all came out as before', () => {
    expect(movedBy([crossing('a', 'P1', 'clear', 'clear')], [])).toEqual(nobodyMoved);
  });
});
