import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyCrossing, otherwiseOf, type AnyCrossing } from '../../test/anySmall.js';
import { small, type Otherwise } from '../../test/small.js';
import { isApplicable } from '../change/index.js';
import { wifiRateAt } from '../link/index.js';
import { computeFigures, evaluateCrossing, type CrossingFigures } from './index.js';

const rank = { clear: 0, unknown: 1, limited: 2, blocked: 3 };
const figures = (otherwise: Otherwise): CrossingFigures => computeFigures(small(otherwise));
const of = (any: AnyCrossing) => figures(otherwiseOf(any));
const runs = { numRuns: 150 };

describe('more of what is bad, less of what is good', () => {
  const worse: [string, (any: AnyCrossing, by: number) => AnyCrossing][] = [
    ['delay', (any, by) => ({ ...any, line: { ...any.line, medianMs: any.line.medianMs * (1 + by) } })],
    ['loss', (any, by) => ({ ...any, line: { ...any.line, lostShare: Math.min(0.6, any.line.lostShare + by / 5) } })],
    ['variation', (any, by) => ({ ...any, line: { ...any.line, spreadMs: any.line.spreadMs + by * 300 } })],
    ['jitter', (any, by) => ({ ...any, line: { ...any.line, jitterMs: any.line.jitterMs + by * 30 } })],
    ['people', (any, by) => ({ ...any, sharedBy: any.sharedBy + Math.round(by * 200) })],
    ['rate down', (any, by) => ({ ...any, line: { ...any.line, downMbps: any.line.downMbps / (1 + by * 10) } })],
    ['rate up', (any, by) => ({ ...any, line: { ...any.line, upMbps: any.line.upMbps / (1 + by * 10) } })],
    ['delay under load', (any, by) => ({ ...any, line: { ...any.line, addedMs: any.line.addedMs + by * 300 } })],
  ];
  test.each(worse)('%s: no verdict gets better, no figure either', (_, change) => {
    fc.assert(
      fc.property(anyCrossing, fc.double({ min: 0, max: 1, noNaN: true }), (any, by) => {
        const [before, after] = [of(any), of(change(any, by))];
        expect(rank[after.verdict]).toBeGreaterThanOrEqual(rank[before.verdict]);
        expect(after.frames.value).toBeLessThanOrEqual(before.frames.value + 1e-6);
        expect(after.delay.value).toBeGreaterThanOrEqual(before.delay.value - 1e-6);
      }),
      runs,
    );
  });
});

describe('taking away what is known', () => {
  const facts: [string, (otherwise: Otherwise) => Otherwise][] = [
    ['version', (o) => ({ ...o, endpoint: { ...o.endpoint, clientVersion: undefined } })],
    ['decoders', (o) => ({ ...o, endpoint: { ...o.endpoint, decoders: undefined } })],
    ['screens', (o) => ({ ...o, endpoint: { ...o.endpoint, screens: undefined } })],
    ['connection', (o) => ({ ...o, endpoint: { ...o.endpoint, connection: undefined, wifiSignalDbm: undefined } })],
    ['signal', (o) => ({ ...o, endpoint: { ...o.endpoint, wifiSignalDbm: undefined } })],
    ['certificate', (o) => ({ ...o, gateway: { ...o.gateway, certificate: undefined } })],
    ['power', (o) => ({ ...o, host: { ...o.host, power: undefined } })],
    ['places', (o) => ({ ...o, host: { ...o.host, used: undefined } })],
    ['drawing', (o) => ({ ...o, host: { ...o.host, drawMs: undefined } })],
    ['encoding', (o) => ({ ...o, host: { ...o.host, encodeMs: undefined } })],
    ['profile', (o) => ({ ...o, resource: { ...o.resource, profileMB: undefined } })],
    ['round trips', (o) => ({ ...o, measured: { ...o.measured, roundTrips: undefined } as never })],
    ['datagrams', (o) => ({ ...o, measured: { ...o.measured, datagrams: undefined } as never })],
    ['rate down', (o) => ({ ...o, measured: { ...o.measured, downMbps: undefined } as never })],
    ['rate up', (o) => ({ ...o, measured: { ...o.measured, upMbps: undefined } as never })],
    ['delay under load', (o) => ({ ...o, measured: { ...o.measured, addedDownMs: undefined, addedUpMs: undefined } as never })],
    ['active share', (o) => ({ ...o, location: { ...o.location, activeShare: undefined } })],
    ['all of the measurement', (o) => ({ ...o, measured: { screens: [] } })],
  ];
  test.each(facts)('%s: nothing becomes Clear that was not, and nothing that was blocked or short is taken for good', (_, without) => {
    fc.assert(
      fc.property(anyCrossing, (any) => {
        const otherwise = otherwiseOf(any);
        // an assumed share of 0.4 to 0.8 says something only of shares that lie in it
        fc.pre(any.activeShare === undefined || any.activeShare === 0.5);
        // a rate no Wi-Fi reaches at the signal that is told: the two contradict each other, and the lower counts until one is gone
        fc.pre(any.connection !== 'wifi' || !any.wifiSignalDbm || any.line.downMbps <= wifiRateAt(any.wifiSignalDbm).highMbps);
        const [before, after] = [figures(otherwise), figures(without(otherwise))];
        if (before.verdict !== 'clear') expect(after.verdict).not.toBe('clear');
        for (const aspect of ['delay', 'frames', 'loss', 'voice', 'sending', 'usable', 'desk'] as const)
          if (before.aspects[aspect] === 'limited' && before.broken === null && after.verdict === 'clear')
            expect([aspect, after.aspects[aspect]]).not.toEqual([aspect, 'clear']);
      }),
      runs,
    );
  });
});

describe('findings say why', () => {
  test('a Limited or Blocked crossing has one that holds it back for each short question, a Clear one none, an Unknown one what is missing', () => {
    fc.assert(
      fc.property(anyCrossing, (any) => {
        const { figures: f, findings } = evaluateCrossing(small(otherwiseOf(any)));
        const weights = findings.map(({ weight }) => weight);
        if (f.verdict === 'blocked') expect(weights).toContain('blocked');
        if (f.verdict === 'limited') expect(weights).toContain('limited');
        if (f.verdict === 'clear') expect(weights.filter((weight) => weight !== 'risk')).toEqual([]);
        if (f.verdict === 'unknown') {
          expect(weights).toContain('unknown');
          expect(f.missing.length).toBeGreaterThan(0);
        }
        if (f.broken === null)
          for (const key of ['feel', 'usable', 'works'] as const)
            if (f[key].verdict === 'limited') expect([key, weights.includes('limited')]).toEqual([key, true]);
        for (const { evidence, costText, text } of findings) {
          expect(evidence.length).toBeGreaterThan(0);
          for (const told of [text, costText, ...evidence.map((each) => each.text)])
            expect(told).not.toMatch(/NaN|undefined|Infinity|null/);
        }
      }),
      { numRuns: 400 },
    );
  });

  test('a remedy never makes the verdict worse, and applied it gives exactly what was promised', () => {
    fc.assert(
      fc.property(anyCrossing, (any) => {
        const facts = small(otherwiseOf(any));
        const { figures: before, findings } = evaluateCrossing(facts);
        for (const { remedies } of findings)
          for (const { effect, change } of remedies) {
            if (!effect) continue;
            expect(rank[effect.becomes]).toBeLessThanOrEqual(rank[before.verdict]);
            if (!isApplicable(change)) continue;
            const after = facts.reader.after(change).read(facts.ref);
            expect(after && computeFigures(after).verdict).toBe(effect.becomes);
          }
      }),
      { numRuns: 120 },
    );
  });

  test('every number of a sentence stands in the evidence beneath it, or is what was typed or set', () => {
    const numbers = (text: string): string[] => text.match(/\d+(?:\.\d+)?/g) ?? [];
    fc.assert(
      fc.property(anyCrossing, (any) => {
        const facts = small(otherwiseOf(any));
        const { findings, figures: f } = evaluateCrossing(facts);
        for (const { kind, text, evidence, costText } of findings) {
          const beneath = new Set(
            [...evidence.map((each) => each.text), costText, JSON.stringify(f.settings), JSON.stringify(f.wanted)].flatMap(numbers),
          );
          // names have numbers in them, and what is in words of the standards
          const plain = text.replace(/E1|in 100|H\.?26[45]|G\.\d+|2160p|1440p|1080p|\d+ × \d+/g, '');
          const missing = numbers(plain).filter((number) => !beneath.has(number) && Number(number) > 1);
          expect([kind, text, missing]).toEqual([kind, text, []]);
        }
      }),
      { numRuns: 400 },
    );
  });
});

test('the order of rows changes nothing, with five hundred on a line', () => {
  const people = Array.from({ length: 500 }, (_, i) => ({
    id: `p${i}`,
    name: `P ${i}`,
    kind: 'staff',
    location: 'hall',
    groups: ['staff'],
  }));
  const endpoints = people.map(({ id }, i) => ({
    id: `x${i}`,
    name: `X${i}`,
    location: 'hall',
    person: id,
    deviceClass: 'thin-client',
    ownership: 'managed',
    platform: 'thin',
    processor: 'x86-64',
    clientKind: 'native client',
    screens: [{ widthPx: i % 3 ? 1920 : 3840, heightPx: i % 3 ? 1080 : 2160, refreshHz: 60 }],
  }));
  const at = (order: <T>(list: T[]) => T[]) => {
    const { delay, frames, way } = figures({
      location: { downMbps: 900, sharedBy: undefined },
      more: { person: order(people), endpoint: order(endpoints) },
    });
    return [delay.value, frames.value, way.available?.value];
  };
  const straight = at((list) => list);
  expect(at((list) => [...list].reverse())).toEqual(straight);
  expect(at((list) => [...list.slice(250), ...list.slice(0, 250)])).toEqual(straight);
});
