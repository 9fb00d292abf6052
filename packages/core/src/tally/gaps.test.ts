import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { kindTraits, type Measurement } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { small } from '../../test/small.js';
import { computeFigures, FactsReader, type CrossingFacts, type CrossingFigures, type Missing } from '../crossing/index.js';
import { modelOf, type EstateModel } from '../estate/index.js';
import { tellGapStep } from '../telling/index.js';
import { GapsTally, type Gaps } from './index.js';

const { estate, measurements } = demoEstate();
const demo = (more: readonly Measurement[] = []) =>
  new FactsReader(
    modelOf(estate, [...measurements, ...more], { traits: kindTraits }),
    Math.max(demoInstant, ...more.map(({ at }) => Date.parse(at) + 60_000)),
  );

function gapsOf(reader: FactsReader): Gaps {
  const tally = new GapsTally();
  for (const ref of reader.model.crossings) {
    const facts = reader.read(ref);
    if (facts) tally.add(facts, computeFigures(facts));
  }
  return tally.result();
}
const unknownAt = (reader: FactsReader, location: string): string[] =>
  reader.model.crossings.flatMap((ref) => {
    const facts = ref.location === location ? reader.read(ref) : null;
    return facts && computeFigures(facts).verdict === 'unknown' ? [ref.id] : [];
  });

/** What a field check brings home of a line that is as it is taken to be, and loses no more than is certain. */
function checked(reader: FactsReader, location: string, endpoint: string, hour: number | null): Measurement {
  const { timeZone } = reader.model.locations.get(location) as { timeZone: string };
  const hourOf = (ms: number) => Number(new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', hourCycle: 'h23' }).format(ms));
  let atMs = demoInstant;
  while (hour !== null && hourOf(atMs) !== hour) atMs += 3_600_000;
  const facts = reader.read(reader.model.crossings.find((ref) => ref.endpoint === endpoint) as never) as CrossingFacts;
  const { rtt, down, up, loss } = computeFigures(facts).way;
  const ms = rtt.value;
  const { p95Ms = ms * 1.1, medianMs = ms, jitterMs = ms * 0.02 } = facts.evidence.roundTrips?.value ?? {};
  return {
    ...{ id: `check-${endpoint}`, at: new Date(atMs).toISOString(), by: 'field check', method: 'field check', vantage: 'desk' },
    ...{ location, endpoint, partial: false },
    figures: {
      roundTrips: {
        samples: 400,
        lost: 0,
        minMs: ms * 0.98,
        medianMs: ms,
        p95Ms: ms + p95Ms - medianMs,
        jitterMs,
        medianLowMs: ms - 0.1,
        medianHighMs: ms + 0.1,
      },
      ...{
        addedDownMs: facts.evidence.addedDownMs?.value ?? 0,
        addedUpMs: facts.evidence.addedUpMs?.value ?? 0,
        downMbps: down?.value ?? 100,
        upMbps: up?.value ?? 40,
      },
      datagrams: { passes: true, sent: 2000, lost: Math.round(loss.low * 20), overtaken: 0 },
    },
  };
}

describe('what is known of the demo, and what is best learned next', () => {
  const before = demo();
  const gaps = gapsOf(before);

  test('every thing that crossings pass is known in one way, and what is Unknown is told', () => {
    const verdicts = before.model.crossings.filter((ref) => {
      const facts = before.read(ref);
      return facts && computeFigures(facts).verdict === 'unknown';
    }).length;
    expect(gaps.unknown).toBe(verdicts);
    expect(gaps.unknown).toBeGreaterThan(0);
    const screens = gaps.facts.find(({ field }) => field === 'screens');
    const endpoints = new Set(before.model.crossings.map(({ endpoint }) => endpoint));
    expect((screens?.measured ?? 0) + (screens?.reported ?? 0) + (screens?.declared ?? 0) + (screens?.notKnown ?? 0)).toBe(endpoints.size);
    // places together are the whole
    for (const { kind, field, decides } of gaps.facts) {
      const parts = gaps.places.flatMap(({ facts }) => facts.filter((each) => each.kind === kind && each.field === field));
      expect(parts.reduce((sum, each) => sum + each.decides, 0)).toBe(decides);
    }
    expect(gaps.places.reduce((sum, { unknown }) => sum + unknown, 0)).toBe(gaps.unknown);
  });

  test('the steps together settle no more than is Unknown, the best first', () => {
    expect(gaps.next.reduce((sum, { crossings }) => sum + crossings, 0)).toBeLessThanOrEqual(gaps.unknown);
    const checks = gaps.next.filter(({ acts }) => acts.every(({ way, times }) => way === 'field check' && times === 1));
    expect(checks.length).toBeGreaterThan(3);
    for (const [i, step] of gaps.next.entries())
      if (i > 0)
        expect(step.crossings / step.minutes).toBeLessThanOrEqual(
          (gaps.next[i - 1] as typeof step).crossings / (gaps.next[i - 1] as typeof step).minutes + 1e-9,
        );
  });

  test('a step that is done settles what it promised, to a tenth', () => {
    const checks = gaps.next.filter(({ acts: [act, ...others] }) => act?.way === 'field check' && others.length === 0).slice(0, 6);
    expect(checks.length).toBeGreaterThan(2);
    for (const { acts, location, crossings } of checks) {
      const after = demo(
        acts.flatMap(({ endpoints, hour }) => endpoints.map((endpoint) => checked(before, location as string, endpoint, hour))),
      );
      const still = new Set(unknownAt(after, location as string));
      const settled = unknownAt(before, location as string).filter((id) => !still.has(id)).length;
      expect([location, settled, Math.abs(settled - crossings) <= crossings * 0.1]).toEqual([location, settled, true]);
    }
  });

  test('steps are told by the names of places', () => {
    expect(gaps.next.map((step) => tellGapStep(step, before.model))[0]).toMatch(/^One field check at [A-Z]/);
    expect(gaps.next.map((step) => tellGapStep(step, before.model))).toContainEqual(
      expect.stringMatching(/^A field check on each of \d+ endpoints at Call desk at home, about \d\d:\d\d$/),
    );
  });
});

describe('steps', () => {
  const base = small().reader;
  const model: EstateModel = base.model;
  const facts = base.read(model.crossings[0] as never) as CrossingFacts;
  const figures = computeFigures(facts);
  /** A crossing that waits for what is missing. */
  const waiting = (
    person: string,
    endpoint: string,
    missing: Missing[],
    more: Partial<CrossingFacts> = {},
  ): [CrossingFacts, CrossingFigures] => [
    { ...facts, person: { ...facts.person, id: person }, endpoint: { ...facts.endpoint, id: endpoint }, ...more },
    { ...figures, verdict: missing.length ? 'unknown' : 'clear', missing },
  ];
  const next = (...list: [CrossingFacts, CrossingFigures][]) => {
    const tally = new GapsTally(() => ({ verdict: 'clear', missing: [] }));
    for (const each of list) tally.add(...each);
    return tally
      .result()
      .next.map(({ acts, crossings, people, minutes }) => [
        acts.map(({ way, times }) => `${times} ${way}`).join(' + '),
        crossings,
        people,
        minutes,
      ]);
  };

  test('a shared line is measured once, a device by itself, and a check on the device measures the line too', () => {
    expect(next(waiting('a', 'e1', ['loss']), waiting('b', 'e2', ['line rate']))).toEqual([['1 field check', 2, 2, 1]]);
    expect(next(waiting('a', 'e1', ['screens']), waiting('b', 'e2', ['decoders']))).toEqual([['2 field check', 2, 2, 2]]);
    expect(next(waiting('a', 'e1', ['screens', 'loss']))).toEqual([['1 field check', 1, 1, 1]]);
    const home = { location: { ...facts.location, ownLines: true } };
    expect(next(waiting('a', 'e1', ['loss'], home), waiting('b', 'e2', ['loss'], home))).toEqual([['2 field check', 2, 2, 2]]);
  });

  test('a crossing with two facts missing is settled by both alone, and what is done for one counts for the next', () => {
    const both = waiting('c', 'e3', ['loss', 'power of the hosts']);
    expect(next(waiting('a', 'e1', ['loss']), waiting('b', 'e2', ['loss']), both)).toEqual([
      ['1 field check', 2, 2, 1],
      ['1 report of the hosts', 1, 1, 2],
    ]);
    // three for three minutes and one alone for one: of equals the more
    expect(next(waiting('a', 'e1', ['loss']), both, waiting('d', 'e4', ['loss', 'power of the hosts']))).toEqual([
      ['1 field check + 1 report of the hosts', 3, 3, 3],
    ]);
  });

  test('a doubt that shows once the line is known is waited for too, and a check on the device then serves the line', () => {
    const tally = new GapsTally(({ endpoint }) =>
      endpoint.id === 'e2' ? { verdict: 'unknown', missing: ['Wi-Fi signal'] } : { verdict: 'limited', missing: [] },
    );
    for (const each of [waiting('a', 'e1', ['loss']), waiting('b', 'e2', ['loss']), waiting('c', 'e3', ['loss'])]) tally.add(...each);
    expect(tally.result().next).toMatchObject([{ crossings: 3, minutes: 1, acts: [{ way: 'field check', times: 1, endpoints: ['e2'] }] }]);
  });

  test('hosts are reported and gateways looked at once for all places', () => {
    const elsewhere = { location: { ...facts.location, id: 'elsewhere' } };
    expect(next(waiting('a', 'e1', ['power of the hosts']), waiting('b', 'e2', ['places of the hosts'], elsewhere))).toEqual([
      ['1 report of the hosts', 2, 2, 2],
    ]);
    expect(next(waiting('a', 'e1', ['certificate']), waiting('b', 'e2', ['TLS of the gateway'], elsewhere))).toEqual([
      ['1 look at the gateway', 2, 2, 2],
    ]);
    expect(next(waiting('a', 'e1', ['client version']), waiting('a', 'e2', ['client version']))).toEqual([
      ['2 look at the device', 2, 1, 4],
    ]);
  });

  test('what is known, or Unknown without a fact that could be learned, asks for nothing', () => {
    expect(next(waiting('a', 'e1', []))).toEqual([]);
    const tally = new GapsTally(() => ({ verdict: 'clear', missing: [] }));
    tally.add(facts, { ...figures, verdict: 'unknown', missing: [] });
    expect(tally.result()).toMatchObject({ unknown: 1, atLimit: 1, next: [] });
  });

  test('a crossing that lies at a limit is not promised to be settled by measuring it again', () => {
    const tally = new GapsTally(() => ({ verdict: 'unknown', missing: ['round trips'] }));
    tally.add(...waiting('a', 'e1', ['round trips']));
    expect(tally.result()).toMatchObject({ unknown: 1, atLimit: 1, next: [] });
  });

  test('whatever is missing, all steps together settle all, each crossing once', () => {
    const fact = fc.constantFrom<Missing>('loss', 'screens', 'power of the hosts', 'certificate', 'client version', 'sign-on times');
    const one = fc.record({
      who: fc.constantFrom('a', 'b', 'c'),
      at: fc.constantFrom('e1', 'e2', 'e3'),
      missing: fc.uniqueArray(fact, { minLength: 1, maxLength: 4 }),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 12 }), (list) => {
        const tally = new GapsTally(() => ({ verdict: 'clear', missing: [] }));
        for (const { who, at, missing } of list) tally.add(...waiting(who, at, missing));
        const { next: steps, unknown } = tally.result();
        expect(unknown).toBe(list.length);
        expect(steps.reduce((sum, { crossings }) => sum + crossings, 0)).toBe(list.length);
        expect(steps.every(({ minutes, crossings }) => minutes > 0 && crossings > 0)).toBe(true);
      }),
    );
  });
});
