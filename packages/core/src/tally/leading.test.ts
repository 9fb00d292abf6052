import { expect, test } from '@jest/globals';
import { completed, kindTraits, type Endpoint, type Estate, type Verdict } from '@underpass/contracts';
import fc from 'fast-check';
import { counting, type Counting } from '../../test/counting.js';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { FactsReader, summariseCrossing } from '../crossing/index.js';
import { modelOf } from '../estate/index.js';
import { areaOf, LeadingTally } from './index.js';

const { estate, measurements } = demoEstate();
function leadingOf(of: Estate) {
  const reader = new FactsReader(modelOf(of, measurements, { complete: completed, traits: kindTraits }), demoInstant);
  const tally = counting(new LeadingTally());
  for (const ref of reader.model.crossings) tally.set(ref, areaOf(reader.model, ref.location), summariseCrossing(reader.read(ref)!));
  return tally.findings(reader);
}
/** The same estate in which no two devices say the same. */
const withoutLikes = (of: Estate): Estate => ({ ...of, endpoint: of.endpoint.map((each, i) => ({ ...each, model: `Model ${i}` })) });
const thatShares = (endpoint: Endpoint, i: number): Endpoint =>
  i % 3 ? endpoint : { ...endpoint, users: estate.person.slice(i % 40, (i % 40) + 3).map(({ id }) => id) };

test.each<[string, Estate]>([
  ['the demo', estate],
  ['the demo, where some devices are shared and some people have several', { ...estate, endpoint: estate.endpoint.map(thatShares) }],
])('what leads is the same whether those that are alike are worked out once or each: %s', (_, of) => {
  const found = leadingOf(of);
  expect(found.length).toBeGreaterThan(5);
  expect(leadingOf(withoutLikes(of))).toEqual(found);
});

test('whatever crossings came to before, what leads is what they come to now', () => {
  const reader = new FactsReader(modelOf(estate, measurements, { complete: completed, traits: kindTraits }), demoInstant);
  const all = reader.model.crossings.map((ref) => ({ ref, summary: summariseCrossing(reader.read(ref)!) }));
  const some = [...all.slice(0, 20), ...all.filter(({ summary }) => summary.verdict !== 'clear').slice(0, 60)];
  const [refs, real] = [some.map(({ ref }) => ref), some.map(({ summary }) => summary)];
  const fill = (tally: Counting<LeadingTally>) => refs.forEach((ref, i) => tally.set(ref, areaOf(reader.model, ref.location), real[i]!));
  const anew = counting(new LeadingTally());
  fill(anew);
  const found = anew.findings(reader);
  expect(found.length).toBeGreaterThan(2);
  const kinds = [...new Set(real.flatMap((summary) => summary.kinds))];
  const anySet = fc.record({
    at: fc.nat(refs.length - 1),
    verdict: fc.constantFrom<(Verdict | null)[]>('blocked', 'limited', 'unknown', 'clear', null),
    kinds: fc.subarray(kinds),
    area: fc.constantFrom('Coast', 'Moor', null),
  });
  fc.assert(
    fc.property(fc.array(anySet, { maxLength: 150 }), (sets) => {
      const tally = counting(new LeadingTally());
      for (const { at, verdict, kinds: ofThem, area } of sets) {
        const ref = refs[at]!;
        tally.set(ref, area ?? areaOf(reader.model, ref.location), verdict && { ...real[at]!, verdict, kinds: ofThem });
      }
      fill(tally);
      expect(tally.findings(reader)).toEqual(found);
    }),
    { numRuns: 15 },
  );
});
