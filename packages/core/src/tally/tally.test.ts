import { describe, expect, test } from '@jest/globals';
import { kindTraits, type Bay, type Verdict } from '@underpass/contracts';
import fc from 'fast-check';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { doing, fieldsTo, settingTo } from '../change/index.js';
import { FactsReader, noCounts, summariseCrossing, touchedBy, type Counts, type Summary } from '../crossing/index.js';
import { modelOf, type CrossingRef } from '../estate/index.js';
import { areaOf, BoardTally, ImpactTally, LeadingTally } from './index.js';

const { estate, measurements } = demoEstate();
const model = modelOf(estate, measurements, { traits: kindTraits });
const reader = new FactsReader(model, demoInstant);
const refs = model.crossings;
const summaries = new Map(refs.map((ref) => [ref.id, summariseCrossing(reader.read(ref)!)]));
const worse: Verdict[] = ['clear', 'unknown', 'limited', 'blocked'];

/** People at their worst crossing, the slow and obvious way. */
function plainly(crossings: { person: string; verdict: Verdict }[]): Counts {
  const worst = new Map<string, Verdict>();
  for (const { person, verdict } of crossings)
    worst.set(person, worse[Math.max(worse.indexOf(verdict), worse.indexOf(worst.get(person) ?? 'clear'))]!);
  const counts = noCounts();
  for (const verdict of worst.values()) counts[verdict]++;
  return counts;
}

describe('the board', () => {
  const some = refs.filter((_, i) => i % 9 === 0);
  const anySet = fc.record({
    at: fc.nat(some.length - 1),
    verdict: fc.option(fc.constantFrom(...worse)),
    bay: fc.constantFrom<Bay>('Link', 'Host'),
  });

  test('after any crossings came, turned out otherwise and went is what counting them anew gives', () => {
    fc.assert(
      fc.property(fc.array(anySet, { maxLength: 300 }), (sets) => {
        const tally = new BoardTally();
        const now = new Map<string, { ref: CrossingRef; summary: Summary }>();
        for (const { at, verdict, bay } of sets) {
          const ref = some[at]!;
          const summary = verdict && { ...summaries.get(ref.id)!, verdict, bay: verdict === 'clear' ? null : bay };
          tally.set(ref, areaOf(model, ref.location), summary);
          if (summary) now.set(ref.id, { ref, summary });
          else now.delete(ref.id);
        }
        const board = tally.board(model, 3);
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
    const tally = new BoardTally();
    const summary = (verdict: Verdict) => ({ ...summaries.get(refs[0]!.id)!, verdict, bay: null });
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
    const summary = (verdict: Verdict) => ({ ...summaries.get(refs[0]!.id)!, verdict, bay: null });
    const rowsOf = (areas: Record<string, Verdict[]>) => {
      const tally = new BoardTally();
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
    const tally = new BoardTally();
    const summary = { ...summaries.get(refs[0]!.id)!, verdict: 'clear' as Verdict, bay: null };
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

describe('the leading findings', () => {
  const fill = (tally: LeadingTally, from: FactsReader, list: readonly CrossingRef[]) => {
    for (const ref of list) {
      const facts = from.read(ref);
      tally.set(ref, areaOf(from.model, ref.location), facts && summariseCrossing(facts));
    }
  };

  test('followed through a change are the ones that are found anew', () => {
    const tally = new LeadingTally();
    fill(tally, reader, refs);
    tally.findings(reader);
    for (const change of [
      doing(settingTo('picture.heldHeight', 'location', 'wexcombe', 1440)),
      doing(fieldsTo('gateway', 'main', { secondFactor: true })),
      doing({ do: 'change', kind: 'person', id: 'P136', drop: { groups: model.people.get('P136')!.groups } }),
    ]) {
      const after = reader.after(change);
      const touched = touchedBy(reader, after);
      const followed = new LeadingTally();
      fill(followed, reader, refs);
      followed.findings(reader);
      fill(followed, after, touched.after);
      for (const ref of touched.gone) followed.set(ref, areaOf(model, ref.location), null);
      const fresh = new LeadingTally();
      fill(fresh, after, after.model.crossings);
      expect(followed.findings(after)).toEqual(fresh.findings(after));
    }
  });
});

describe('impact', () => {
  const change = doing(settingTo('picture.frameCap', 'organisation', '*', 15));
  /** The impact where each crossing came to something else before. */
  const impactFrom = (before: (ref: CrossingRef) => Pick<Summary, 'verdict' | 'burden'>, which: readonly CrossingRef[] = refs) => {
    const tally = new ImpactTally(reader, change, before);
    for (const ref of which) tally.add(ref);
    return tally.result();
  };
  const after = reader.after(change);
  const then = new Map(refs.map((ref) => [ref.id, summariseCrossing(after.read(ref)!)]));

  test('is better or worse where a crossing moves by more than half a unit of burden, just above and just below', () => {
    const [ref] = refs as [CrossingRef];
    const at = (by: number) => {
      const { verdict, burden } = then.get(ref.id)!;
      const { better, worse, losers } = impactFrom(() => ({ verdict, burden: burden - by }), [ref]);
      return [better, worse, losers.length];
    };
    expect([at(0.49), at(0.51), at(-0.49), at(-0.51)]).toEqual([
      [0, 0, 0],
      [0, 1, 1],
      [0, 0, 0],
      [1, 0, 0],
    ]);
  });

  test('names those who lose most first, and no more than are told', () => {
    const by = new Map(refs.map(({ id }, i) => [id, i + 1]));
    const { losers, worse } = impactFrom(({ id }) => ({ verdict: 'clear', burden: then.get(id)!.burden - by.get(id)! }));
    expect(worse).toBe(refs.length);
    expect(losers.map(({ crossing }) => crossing)).toEqual(
      [...refs]
        .reverse()
        .slice(0, losers.length)
        .map(({ id }) => id),
    );
    expect(losers.length).toBeLessThan(refs.length);
    expect(losers[0]).toMatchObject({ from: 'clear', to: then.get(losers[0]!.crossing)!.verdict });
  });

  test('counts people where they stand before and after, those whose crossings come or go too', () => {
    const before = plainly(refs.map((ref) => ({ ...ref, verdict: summaries.get(ref.id)!.verdict })));
    for (const change of [
      doing(settingTo('picture.heldHeight', 'location', 'wexcombe', 1440)),
      doing(settingTo('picture.frameCap', 'organisation', '*', 15)),
      doing({ do: 'move', leave: 'timetable', join: 'posters' }),
      doing(fieldsTo('location', 'wexcombe', { sharedBy: 20 })),
    ]) {
      const tally = new ImpactTally(reader, change, ({ id }) => summaries.get(id));
      for (const ref of tally.crossings) tally.add(ref);
      const impact = tally.result();
      const after = reader.after(change);
      const then = new Set(after.model.crossings.map(({ id }) => id));
      const verdicts = after.model.crossings.map((ref) => ({ ...ref, verdict: summariseCrossing(after.read(ref)!).verdict }));
      expect(impact.before).toEqual(before);
      // whoever has no crossing left is nobody's trouble any more
      const without = refs.filter(({ id }) => !then.has(id)).map((ref) => ({ ...ref, verdict: 'clear' as Verdict }));
      expect(impact.after).toEqual(plainly([...verdicts, ...without]));
      expect(impact.come).toBe(after.model.crossings.filter(({ id }) => !summaries.has(id)).length);
      expect(impact.gone).toBe(refs.filter(({ id }) => !then.has(id)).length);
      expect(impact.changedVerdict).toBe(
        verdicts.filter(({ id, verdict }) => summaries.has(id) && summaries.get(id)!.verdict !== verdict).length,
      );
    }
  });
});

test('a remedy becomes Clear whoever is Clear on all of their crossings with it, not on one of them', () => {
  const tally = new LeadingTally();
  const wexcombe = refs.filter(({ location }) => location === 'wexcombe');
  for (const ref of wexcombe) tally.set(ref, 'Wexcombe', summaries.get(ref.id)!);
  const finding = tally.findings(reader).find(({ kind }) => kind === 'share of the line below the picture’s demand')!;
  // people of the finding who are Clear then, each at the worst of their crossings in it: what the bar shows and what is said are one
  expect(finding.after.clear).toBeGreaterThan(20);
  expect(finding.remedy?.effect).toBe(`${finding.after.clear} become Clear`);
});
