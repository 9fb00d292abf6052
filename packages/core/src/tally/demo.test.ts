import { describe, expect, test } from '@jest/globals';
import { kindTraits, type Verdict } from '@underpass/contracts';
import { counting, type Counting } from '../../test/counting.js';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { plainly } from '../../test/plainCounts.js';
import { doing, fieldsTo, settingTo } from '../change/index.js';
import { FactsReader, summariseCrossing, touchedBy, type Summary } from '../crossing/index.js';
import { modelOf, type CrossingRef } from '../estate/index.js';
import { areaOf, ImpactTally, LeadingTally } from './index.js';

const { estate, measurements } = demoEstate();
const model = modelOf(estate, measurements, { traits: kindTraits });
const reader = new FactsReader(model, demoInstant);
const refs = model.crossings;
const summaries = new Map(refs.map((ref) => [ref.id, summariseCrossing(reader.read(ref)!)]));

describe('the leading findings', () => {
  const fill = (tally: Counting<LeadingTally>, from: FactsReader, list: readonly CrossingRef[]) => {
    for (const ref of list) {
      const facts = from.read(ref);
      tally.set(ref, areaOf(from.model, ref.location), facts && summariseCrossing(facts));
    }
  };

  test('followed through a change are the ones that are found anew', () => {
    const tally = counting(new LeadingTally());
    fill(tally, reader, refs);
    tally.findings(reader);
    for (const change of [
      doing(settingTo('picture.heldHeight', 'location', 'wexcombe', 1440)),
      doing(fieldsTo('gateway', 'main', { secondFactor: true })),
      doing({ do: 'change', kind: 'person', id: 'P136', drop: { groups: model.people.get('P136')!.groups } }),
    ]) {
      const after = reader.after(change);
      const touched = touchedBy(reader, after);
      const followed = counting(new LeadingTally());
      fill(followed, reader, refs);
      followed.findings(reader);
      fill(followed, after, touched.after);
      for (const ref of touched.gone) followed.set(ref, areaOf(model, ref.location), null);
      const fresh = counting(new LeadingTally());
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
  const tally = counting(new LeadingTally());
  const wexcombe = refs.filter(({ location }) => location === 'wexcombe');
  for (const ref of wexcombe) tally.set(ref, 'Wexcombe', summaries.get(ref.id)!);
  const finding = tally.findings(reader).find(({ kind }) => kind === 'share of the line below the picture’s demand')!;
  // people of the finding who are Clear then, each at the worst of their crossings in it: what the bar shows and what is said are one
  expect(finding.after.clear).toBeGreaterThan(20);
  expect(finding.remedy?.effect).toBe(`${finding.after.clear} become Clear`);
});
