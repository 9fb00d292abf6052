import { describe, expect, test } from '@jest/globals';
import { kindTraits, type Bay, type Hypothesis } from '@underpass/contracts';
import fc from 'fast-check';
import { counting } from '../../test/counting.js';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { doing, settingTo, supposing } from '../change/index.js';
import { modelOf } from '../estate/index.js';
import { areaOf, BoardTally, ImpactTally, LeadingTally } from '../tally/index.js';
import { lineOf } from './line.js';
import {
  computeFigures,
  evaluateCrossing,
  FactsReader,
  figuresAfter,
  findingKinds,
  nameCovers,
  summariseCrossing,
  type CrossingFacts,
} from './index.js';

const { estate, measurements, problems } = demoEstate();
const model = modelOf(estate, measurements, { traits: kindTraits });
const reader = new FactsReader(model, demoInstant);
const all = model.crossings.map((ref) => ({ ref, facts: reader.read(ref) as CrossingFacts }));
const factsOf = (endpoint: string, resource: string): CrossingFacts => {
  const found = all.find(({ ref }) => ref.endpoint === endpoint && ref.resource === resource);
  if (!found) throw new Error(`no crossing ${endpoint} ${resource}`);
  return found.facts;
};
const kindsOf = (facts: CrossingFacts) => evaluateCrossing(facts).findings.map((finding) => finding.kind);
const bays: Bay[] = ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'];

describe('the demo estate', () => {
  test('reads without a problem and has the size it says', () => {
    expect(problems).toEqual([]);
    expect([estate.location.length, estate.person.length, estate.endpoint.length, estate.resource.length, estate.host.length]).toEqual([
      22, 393, 396, 25, 12,
    ]);
  });

  test('its planted troubles are found, each in its bay', () => {
    const planted: [string, string, string][] = [
      ['WEX-TC-020', 'timetable', 'share of the line below the picture’s demand'],
      ['WEX-TC-014', 'timetable', 'a peripheral has no way through'],
      ['MV-001', 'documents', 'round trip above the threshold for the work'],
      ['MV-001', 'crew-log', 'second factor’s time-out shorter than the way'],
      ['CD-005', 'call-desktop', 'jitter or loss before the line'],
      ['GUL-001', 'hull', 'graphics of the host not ready'],
      ['HO-032', 'documents', 'client below the version floor'],
      ['HO-048', 'finance', 'personal device under a managed-only rule'],
      ['HO-081', 'training', 'certificate for another name'],
      ['CR-001', 'traffic', 'screens exceed the client’s limit'],
      ['HO-013', 'documents', 'a screen’s mode does not pass its port'],
      ['TOL-TC-027', 'counter', 'no hardware decode for the stream in use'],
      ['BRK-001', 'documents', 'loss limits the rate although the line is wide'],
      ['OLD-TC-001', 'counter', 'measured from the wrong place'],
      ['OS-003', 'guest-plans', 'drawn by the processor in the browser'],
      ['CD-043', 'call-desktop', 'the line is not known'],
    ];
    for (const [endpoint, resource, kind] of planted)
      expect([endpoint, kindsOf(factsOf(endpoint, resource))]).toEqual([endpoint, expect.arrayContaining([kind])]);
    expect(new Set(findingKinds.map(({ kind }) => kind)).size).toBe(findingKinds.length);
    expect(findingKinds.length).toBeGreaterThanOrEqual(30);
    expect(new Set(findingKinds.map(({ bay }) => bay))).toEqual(new Set(bays));
  });

  test('the sum of the parts is the total, always, and every figure lies in its interval', () => {
    for (const { facts } of all) {
      const f = computeFigures(facts);
      expect(f.delay.parts.reduce((sum, part) => sum + part.ms, 0)).toBeCloseTo(f.delay.value, 6);
      expect(f.delay.low).toBeLessThanOrEqual(f.delay.value + 1e-9);
      expect(f.delay.high).toBeGreaterThanOrEqual(f.delay.value - 1e-9);
      expect(f.frames.low).toBeLessThanOrEqual(f.frames.high);
      const critical = f.timeline.steps.filter((step) => f.timeline.critical.includes(step.name));
      expect(critical.reduce((sum, step) => sum + step.seconds, 0)).toBeCloseTo(f.timeline.totalS, 6);
      const broken = f.ladder.findIndex((step) => step.state === 'broken');
      if (broken >= 0) expect(f.ladder.slice(broken + 1).every((step) => step.state === 'not reached')).toBe(true);
      expect(f.verdict === 'blocked').toBe(broken >= 0);
    }
  });

  test('every remedy shown helps, and its effect is what evaluating again with the change gives', () => {
    let checked = 0;
    for (const { facts } of all)
      for (const finding of evaluateCrossing(facts).findings)
        for (const remedy of finding.remedies) {
          if (!remedy.effect) continue;
          expect(remedy.effect.helps).toBe(true);
          expect(figuresAfter(facts, remedy.change)?.verdict).toBe(remedy.effect.becomes);
          checked++;
        }
    expect(checked).toBeGreaterThan(500);
  });

  test('findings come dearest first, and a root cause is told once', () => {
    for (const { facts } of all) {
      const { findings } = evaluateCrossing(facts);
      const costs = findings.map((finding) => finding.cost);
      expect(costs).toEqual([...costs].sort((a, b) => b - a));
      expect(new Set(findings.map((finding) => finding.kind)).size).toBe(findings.length);
    }
    const graphics = evaluateCrossing(factsOf('GUL-001', 'hull')).findings.find(({ kind }) => kind === 'graphics of the host not ready');
    expect(graphics?.consequences.join()).toContain('draws a frame in');
  });
});

describe('unknown stays unknown', () => {
  const known = factsOf('CD-001', 'call-desktop');

  test('without a line rate or a measurement the verdict is Unknown, with the missing fact and a way to learn it', () => {
    const { downMbps: _down, upMbps: _up, ...line } = known.line;
    const facts: CrossingFacts = { ...known, line, evidence: { rejected: [] } };
    const { figures, findings } = evaluateCrossing(facts);
    expect(figures.verdict).toBe('unknown');
    expect(figures.missing).toEqual(expect.arrayContaining(['line rate', 'rate upwards', 'reach of the gateway']));
    const finding = findings.find(({ kind }) => kind === 'the line is not known');
    expect(finding?.remedies[0]?.text).toContain('field check');
    // a call is reckoned with what the line does not rule out
    expect(figures.way).toMatchObject({ lossKnown: false, loss: { source: 'assumed', low: 0 } });
  });

  test('fewer than 20 round trips are no verdict; UDP that does not pass leaves the loss unknown, not zero', () => {
    const trips = known.evidence.roundTrips;
    if (!trips) throw new Error('the demo lost its measurement');
    const few = computeFigures({ ...known, evidence: { ...known.evidence, roundTrips: { ...trips, samples: 12 } } });
    expect(few.way.rttKnown).toBe(false);
    // they say what may be, not what is not: the interval holds them and what is usual
    expect(few.way.rtt).toMatchObject({ source: 'measured', value: trips.value.medianMs });
    expect(few.way.rtt.high - few.way.rtt.low).toBeGreaterThan(10);
    const blocked = computeFigures({ ...known, evidence: { ...known.evidence, datagrams: { ...trips, value: { passes: false } } } });
    // pings that came back are counted then
    expect(blocked.way.loss.value).toBe(0);
    expect(blocked.way.loss.samples).toBe(trips.samples);
    expect(blocked.session.transport).toBe('tcp');
    expect(blocked.missing).toContain('loss');
  });

  test('a measurement taken on the host, or faster than light, is no evidence', () => {
    const oldhithe = factsOf('OLD-TC-001', 'counter');
    expect(oldhithe.evidence.roundTrips).toBeUndefined();
    expect(oldhithe.evidence.rejected.map(({ because }) => because)).toEqual(['not taken at the desk']);
  });

  test('a measured figure replaces a declared one, and both are kept where they disagree', () => {
    const { way } = computeFigures(factsOf('WEX-TC-014', 'timetable'));
    expect(way.down).toMatchObject({ value: 205, source: 'measured', notUsed: { value: 250, source: 'declared' } });
  });
});

describe('changes on paper', () => {
  const facts = factsOf('WEX-TC-020', 'timetable');
  const hold = doing(settingTo('picture.heldHeight', 'location', 'wexcombe', 1440));

  test('leave the given facts as they are', () => {
    const before = JSON.stringify({ ...facts, reader: null });
    expect(figuresAfter(facts, hold)?.verdict).toBe('clear');
    expect(JSON.stringify({ ...facts, reader: null })).toBe(before);
    expect(JSON.stringify({ ...reader.read(facts.ref), reader: null })).toBe(before);
  });

  test('a wider line, less loss or a shorter way never makes a figure worse', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...all.filter((_, i) => i % 9 === 0)),
        fc.double({ min: 1, max: 400, noNaN: true }),
        fc.double({ min: 1, max: 3, noNaN: true }),
        ({ facts: base }, mbps, factor) => {
          const supposed = (more: Partial<Hypothesis>) =>
            figuresAfter(base, supposing({ suppose: 'line', ...lineOf(base), ...more } as Hypothesis))!;
          const at = (downMbps: number) => supposed({ downMbps });
          expect(at(mbps * factor).frames.value).toBeGreaterThanOrEqual(at(mbps).frames.value - 1e-9);
          expect(at(mbps * factor).delay.value).toBeLessThanOrEqual(at(mbps).delay.value + 1e-6);
          const trip = (roundTripMs: number) => supposed({ roundTripMs }).delay.value;
          expect(trip(mbps)).toBeLessThanOrEqual(trip(mbps * factor) + 1e-6);
        },
      ),
      { numRuns: 80 },
    );
  });

  test('the impact on the estate is exact: what it says of the people is what evaluating the changed estate says', () => {
    const tally = new ImpactTally(reader, hold, () => undefined);
    for (const ref of tally.crossings) tally.add(ref);
    const impact = tally.result();
    expect(impact.crossings).toBe(model.crossingsAt('wexcombe').length);
    const moved = impact.moves.reduce((sum, move) => sum + move.people, 0);
    expect(moved).toBeGreaterThan(10);
    const counts = (key: 'before' | 'after') => Object.values(impact[key]).reduce((sum, n) => sum + n, 0);
    expect([counts('before'), counts('after')]).toEqual([393, 393]);
    expect(impact.after.clear - impact.before.clear).toBe(
      impact.moves.reduce((sum, { from, to, people }) => sum + (to === 'clear' ? people : 0) - (from === 'clear' ? people : 0), 0),
    );
  });
});

test('the board counts each person once, at the worst of their crossings', () => {
  const [tally, leadingTally] = [counting(new BoardTally()), counting(new LeadingTally())];
  for (const { ref, facts } of all) {
    tally.set(ref, areaOf(model, ref.location), summariseCrossing(facts));
    leadingTally.set(ref, areaOf(model, ref.location), summariseCrossing(facts));
  }
  const board = tally.board(model);
  expect(Object.values(board.people).reduce((sum, n) => sum + n, 0)).toBe(393);
  for (const row of board.rows) expect(Object.values(row.people).reduce((sum, n) => sum + n, 0)).toBeLessThanOrEqual(393);
  const leading = leadingTally.findings(reader);
  expect(leading.length).toBe(9);
  for (const finding of leading) expect(Object.values(finding.before).reduce((sum, n) => sum + n, 0)).toBe(finding.people);
});

test('listed and summed in steps, crossings and their results are the same as at once, and most steps are short', () => {
  const fresh = modelOf(estate, measurements, { traits: kindTraits });
  const listing = fresh.listing();
  let steps = 0;
  for (let step = listing.next(); !step.done; step = listing.next()) steps++;
  expect(steps).toBe(estate.endpoint.length);
  expect(fresh.crossings).toEqual(model.crossings);
  // listed once: asked again it is there
  expect(fresh.listing().next()).toEqual({ done: true, value: fresh.crossings });
  const summed = new FactsReader(fresh, demoInstant);
  const summing = [...summed.summing()];
  expect(summing.length).toBeGreaterThan(estate.location.length);
  expect([...summed.summing()]).toEqual([]);
  for (const { id } of estate.location) expect([id, summed.othersAt(id)]).toEqual([id, reader.othersAt(id)]);
  for (const { ref, facts } of all.slice(0, 200))
    expect(summariseCrossing(summed.read(ref) as CrossingFacts)).toEqual(summariseCrossing(facts));
});

test('a certificate’s wildcard stands for one label [RFC 6125 §6.4.3]', () => {
  expect(nameCovers('*.in.example', 'a.in.example')).toBe(true);
  expect(nameCovers('*.in.example', 'a.b.in.example')).toBe(false);
  expect(nameCovers('*.in.example', 'in.example')).toBe(false);
  expect(nameCovers('A.example', 'a.EXAMPLE')).toBe(true);
});
