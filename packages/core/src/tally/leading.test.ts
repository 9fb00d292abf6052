import { expect, test } from '@jest/globals';
import { completed, kindTraits, type Endpoint, type Estate } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { FactsReader, summariseCrossing } from '../crossing/index.js';
import { modelOf } from '../estate/index.js';
import { areaOf, LeadingTally } from './index.js';

const { estate, measurements } = demoEstate();
function leadingOf(of: Estate) {
  const reader = new FactsReader(modelOf(of, measurements, { complete: completed, traits: kindTraits }), demoInstant);
  const tally = new LeadingTally();
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
