import { describe, expect, test } from '@jest/globals';
import type { Bay, Verdict } from '@underpass/contracts';
import fc from 'fast-check';
import { counting } from '../../test/counting.js';
import { plainly, worse } from '../../test/plainCounts.js';
import { twoPlaces } from '../../test/twoPlaces.js';
import { noCounts, type Missing, type Summary } from '../crossing/index.js';
import type { CrossingRef } from '../estate/index.js';
import { areaOf, BoardTally } from './index.js';

const place = { kind: 'office', latitude: 55, longitude: 3, lineKind: 'fibre', downMbps: 250 };
const model = twoPlaces({
  location: {
    wexcombe: { name: 'Wexcombe', ...place },
    tolmouth: { name: 'Tolmouth', ...place },
    home: { name: 'At home', ...place, ownLines: true },
    'mv-avocet': { name: 'MV Avocet', ...place, area: 'Vessels' },
  },
});
/** Few people at few places with few resources, so that they meet. */
const some = Array.from({ length: 120 }, (_, i): CrossingRef => {
  const [person, resource, location] = [`p${i % 24}`, `r${i % 7}`, ['wexcombe', 'tolmouth', 'home', 'mv-avocet', 'nowhere'][i % 5]!];
  return { id: `${person}~e${i}~${resource}`, person, endpoint: `e${i}`, location, resource };
});
/** As any crossing comes out, but for what a test has otherwise. */
const usual: Summary = {
  ...{ verdict: 'clear', bay: null, kinds: [], delayMs: 60, frameRate: 30, firstBroken: null, meanMbps: 1 },
  ...{ timeToUsableS: 20, mos: null, settles: null, worstHour: null, burden: 0 },
};

describe('the board', () => {
  const anySet = fc.record({
    at: fc.nat(some.length - 1),
    verdict: fc.option(fc.constantFrom(...worse)),
    bay: fc.constantFrom<Bay>('Link', 'Host'),
    settles: fc.option(fc.constantFrom<Missing>('loss', 'line rate', 'screens', 'certificate')),
    worstHour: fc.option(fc.constantFrom(8, 20)),
    // an area may be another one, and comes back
    area: fc.constantFrom('', '', '', ' East'),
  });

  test('after any crossings came, turned out otherwise and went is what counting them anew gives', () => {
    fc.assert(
      fc.property(fc.array(anySet, { maxLength: 300 }), (sets) => {
        const tally = counting(new BoardTally());
        const now = new Map<string, { ref: CrossingRef; summary: Summary }>();
        for (const { at, verdict, bay, settles, worstHour, area } of sets) {
          const ref = some[at]!;
          const summary = verdict && { ...usual, verdict, bay: verdict === 'clear' ? null : bay, settles, worstHour };
          tally.set(ref, `${areaOf(model, ref.location)}${area}`, summary);
          if (summary) now.set(ref.id, { ref, summary });
          else now.delete(ref.id);
        }
        const anew = counting(new BoardTally());
        for (const { ref, summary } of now.values()) {
          tally.set(ref, areaOf(model, ref.location), summary);
          anew.set(ref, areaOf(model, ref.location), summary);
        }
        const board = tally.board(model, 3);
        expect(board).toEqual(anew.board(model, 3));
        const all = [...now.values()].map(({ ref, summary }) => ({
          ...ref,
          verdict: summary.verdict,
          bay: summary.bay,
          area: areaOf(model, ref.location),
        }));
        expect(board.people).toEqual(plainly(all));
        expect(board.bays.Link).toEqual(plainly(all.filter(({ bay }) => bay === 'Link')));
        expect(board.rows.map(({ area }) => area).sort()).toEqual([...new Set(all.map(({ area }) => area))].sort());
        const own = board.resources.map(({ id }) => id);
        expect(own.length + board.others).toBe(new Set(all.map(({ resource }) => resource)).size);
        for (const row of board.rows) {
          const there = all.filter(({ area }) => area === row.area);
          expect(row.people).toEqual(plainly(there));
          for (const id of own) expect(row.cells[id] ?? noCounts()).toEqual(plainly(there.filter(({ resource }) => resource === id)));
          const rest = there.filter(({ resource }) => !own.includes(resource));
          expect(row.rest).toEqual(rest.length ? plainly(rest) : null);
        }
      }),
      { numRuns: 60 },
    );
  });

  test('its columns go to the resources with most trouble, ties by id, and rows come worst first', () => {
    const tally = counting(new BoardTally());
    const summary = (verdict: Verdict) => ({ ...usual, verdict, bay: null });
    const ref = (person: string, resource: string, location = 'wexcombe') => ({
      id: `${person}~E~${resource}`,
      person,
      endpoint: 'E',
      location,
      resource,
    });
    // six that are well weigh as much as one in trouble; seven weigh more
    for (let i = 0; i < 7; i++) tally.set(ref(`p${i}`, 'well'), 'A', summary('clear'));
    tally.set(ref('q', 'short'), 'B', summary('limited'));
    expect(tally.board(model, 1).resources[0]?.id).toBe('well');
    tally.set(ref('p6', 'well'), 'A', null);
    expect(tally.board(model, 1).resources[0]?.id).toBe('short');
    expect(tally.board(model).rows.map(({ area }) => area)).toEqual(['B', 'A']);
    tally.set(ref('r', 'short'), 'C', summary('blocked'));
    expect(tally.board(model).rows.map(({ area }) => area)).toEqual(['C', 'B', 'A']);
  });

  test('a person who is blocked weighs three, limited two, unknown one; of equals the first by name stands first', () => {
    const summary = (verdict: Verdict) => ({ ...usual, verdict, bay: null });
    const rowsOf = (areas: Record<string, Verdict[]>) => {
      const tally = counting(new BoardTally());
      for (const [area, verdicts] of Object.entries(areas))
        verdicts.forEach((verdict, i) => {
          const person = `${area}${i}`;
          tally.set({ id: person, person, endpoint: 'E', location: 'wexcombe', resource: 'timetable' }, area, summary(verdict));
        });
      return tally.board(model).rows.map(({ area }) => area);
    };
    const times = (count: number, verdict: Verdict) => Array.from({ length: count }, () => verdict);
    expect(rowsOf({ b: times(1, 'blocked'), a: times(3, 'unknown') })).toEqual(['a', 'b']);
    expect(rowsOf({ a: times(2, 'unknown'), b: times(1, 'blocked') })).toEqual(['b', 'a']);
    expect(rowsOf({ a: times(1, 'blocked'), b: times(4, 'unknown') })).toEqual(['b', 'a']);
    expect(rowsOf({ a: times(1, 'limited'), b: times(2, 'unknown') })).toEqual(['a', 'b']);
    expect(rowsOf({ a: times(1, 'unknown'), b: times(1, 'limited') })).toEqual(['b', 'a']);
    expect(rowsOf({ a: times(1, 'blocked'), b: times(2, 'limited') })).toEqual(['b', 'a']);
    // whoever has any trouble stands before those who have none, however many those are
    expect(rowsOf({ a: times(50, 'clear'), b: times(1, 'unknown') })).toEqual(['b', 'a']);
    expect(rowsOf({ b: times(2, 'clear'), a: times(1, 'clear') })).toEqual(['a', 'b']);
  });

  test('has six columns, names the place of a row that is of one place alone, and counts what has no column', () => {
    const tally = counting(new BoardTally());
    const summary = { ...usual, verdict: 'clear' as Verdict, bay: null };
    const put = (n: number, location: string, area: string) =>
      tally.set({ id: `${n}${location}`, person: 'p', endpoint: 'E', location, resource: `r${n}` }, area, summary);
    for (let n = 0; n < 8; n++) put(n, 'wexcombe', 'one');
    put(0, 'home', 'two');
    put(0, 'tolmouth', 'two');
    put(0, 'nowhere', 'three');
    const board = tally.board(model);
    expect([board.resources.map(({ id }) => id), board.others]).toEqual([['r0', 'r1', 'r2', 'r3', 'r4', 'r5'], 2]);
    const [one, three, two] = board.rows;
    const wexcombe = model.locations.get('wexcombe')!;
    expect(one).toMatchObject({ area: 'one', place: { ownLines: false, downMbps: wexcombe.downMbps }, locations: ['wexcombe'] });
    expect(one?.rest).toEqual({ ...noCounts(), clear: 1 });
    expect(two).toMatchObject({ area: 'two', place: null, locations: ['home', 'tolmouth'], rest: null });
    expect(three).toMatchObject({ area: 'three', place: null });
    // what leaves a place leaves its row
    tally.set({ id: '0home', person: 'p', endpoint: 'E', location: 'home', resource: 'r0' }, 'two', null);
    expect(tally.board(model).rows.find(({ area }) => area === 'two')).toMatchObject({
      locations: ['tolmouth'],
      place: { ownLines: false },
    });
    tally.set({ id: '0tolmouth', person: 'p', endpoint: 'E', location: 'tolmouth', resource: 'r0' }, 'two', null);
    expect(tally.board(model).rows.map(({ area }) => area)).toEqual(['one', 'three']);
    expect([areaOf(model, 'nowhere'), areaOf(model, 'wexcombe'), areaOf(model, 'mv-avocet')]).toEqual([
      'nowhere',
      wexcombe.name,
      'Vessels',
    ]);
  });
});
