import { expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { reached, small, type Otherwise } from '../../test/small.js';
import { evaluateCrossing } from '../crossing/index.js';
import { bayFacts } from './sectionFacts.js';
import { viewOf } from './index.js';

/*
 * What is told of a few crossings, word for word. Read by eye against the sums of the golden crossings: figures that change there change
 * here too, and are to be read again before they are written anew.
 */
const on = { alwaysOn: true };
const certificate = { names: ['gate.example'], notBefore: '2025-01-01', notAfter: '2025-12-31', trust: 'public' };
const cases: Record<string, Otherwise> = {
  plain: { endpoint: on },
  narrow: { endpoint: on, location: { downMbps: 2 } },
  lossy: {
    endpoint: { ...on, connection: 'wifi', wifiSignalDbm: -72 },
    measured: { ...reached, datagrams: { passes: true, sent: 2000, lost: 300, jitterMs: 12 } },
  },
  blocked: { gateway: { certificate } },
  unknown: {
    endpoint: { screens: undefined, decoders: undefined, clientVersion: undefined, connection: undefined },
    gateway: { certificate: undefined },
    location: { downMbps: undefined },
    measured: { datagrams: { passes: false } },
  },
  shared: { endpoint: on, location: { sharedBy: 21, activeShare: 0.5 }, resource: { calls: true, work: 'calls' } },
  drawn: {
    endpoint: { ...on, clientKind: 'browser', memoryMB: 2048, reportedAt: '2026-11-20T08:00:00Z' },
    resource: { graphics: true, kind: 'app', profileMB: 300, profileRegion: 'near' },
    host: { graphics: { card: true, driver: true, mode: 'compute' }, encoderLoad: 0.4, reportedAt: '2026-11-21T08:00:00Z' },
    gateway: { secondFactor: true },
    measured: {
      ...reached,
      downMbps: 80,
      scene: { renderer: 'x', drawnBy: 'processor', frames: 90, averageFps: 12.4, low1Fps: 5 },
      browser: { kind: 'Browser', version: '99', touch: false, can: {} },
    },
  },
  busy: {
    endpoint: {
      ...on,
      peripherals: ['card-reader', 'storage'],
      screens: [1, 2, 3].map(() => ({ widthPx: 1920, heightPx: 1080, refreshHz: 50, port: 'hdmi-1.4' })),
    },
    settings: { 'screens.most': 2, 'transport.prefer': 'tcp' },
    measured: {
      ...reached,
      addedDownMs: 300,
      addedUpMs: 100,
      roundTrips: { samples: 200, lost: 2, minMs: 30, medianMs: 40, p95Ms: 60, medianLowMs: 39, medianHighMs: 41 },
    },
    location: { downMbps: 10 },
  },
  'a slow host': { endpoint: on, host: { drawMs: 60 } },
  'a host that encodes slowly': { endpoint: on, host: { encodeMs: 70 } },
  'a weak decoder': { endpoint: { ...on, decoders: [{ codec: 'h264', level: '3' }], cores: 1 } },
  'drawn in the browser': {
    endpoint: { ...on, clientKind: 'browser' },
    measured: { ...reached, scene: { renderer: 'x', drawnBy: 'processor', frames: 90, averageFps: 9, low1Fps: 4 } },
  },
  'calls from far away': { endpoint: on, location: { delayMs: 260 }, resource: { calls: true, work: 'calls' } },
  'calls not known': { endpoint: on, resource: { calls: true, work: 'calls' }, measured: { datagrams: { passes: false } } },
  'an unsteady way': {
    endpoint: { ...on, connection: 'wifi', wifiSignalDbm: -76 },
    measured: { ...reached, roundTrips: { samples: 200, lost: 8, minMs: 18, medianMs: 24, p95Ms: 190, medianLowMs: 22, medianHighMs: 26 } },
  },
  'a large profile': { endpoint: on, resource: { profileMB: 9000, profileRegion: 'near' } },
  'graphics not known': {
    endpoint: on,
    host: { drawMs: undefined, encodeMs: undefined, graphics: undefined },
    resource: { graphics: true },
  },
  'screens slower than the host': { endpoint: { ...on, screens: [{ widthPx: 1920, heightPx: 1080, refreshHz: 20 }] } },
  'just below the quality that is enough': { endpoint: on, location: { downMbps: 3, sharedBy: 2, activeShare: 1 } },
};
const rounded = (value: number | null, digits = 2) => (value === null ? '–' : String(Number(value.toFixed(digits))));

/** What is told, as lines. */
function told(otherwise: Otherwise): Record<string, unknown> {
  const facts = small(otherwise);
  const { figures } = evaluateCrossing(facts);
  const view = viewOf(facts);
  const { bays, ducts, limitDelayMs, totalDelayMs, delayVerdict, signonVerdict, sources, totalSignonS, limitSignonS } = view.sections.feel;
  return {
    sentence: view.sentence,
    questions: view.questions.map((q) => [q.question, q.verdict, q.bay, q.answer, q.more].join(' | ')),
    feel: bays.map((b) =>
      [
        b.bay,
        b.state,
        b.verdict ?? '–',
        b.label,
        b.detail,
        rounded(b.headroom),
        `${rounded(b.delayMs, 1)} ms${b.delayAssumed ? ' assumed' : ''}`,
        `${rounded(b.signonS)} s${b.signonAssumed ? ' assumed' : ''}`,
      ].join(' | '),
    ),
    totals:
      [totalDelayMs, limitDelayMs, totalSignonS, limitSignonS].map((n) => rounded(n)).join(' | ') +
      ` | ${delayVerdict} | ${signonVerdict} | ${JSON.stringify(sources)}`,
    ducts,
    others: (['open', 'usable', 'works'] as const).map((key) =>
      view.sections[key].bays.map((b) => `${b.state}: ${b.label} ${b.detail}`.trim()).join(' | '),
    ),
    facts: bays.flatMap((b) =>
      bayFacts(b.bay, facts, figures).map((f) => `${b.bay}, ${f.source}: ${f.text} (${f.note})${f.notUsed ? `, ${f.notUsed}` : ''}`),
    ),
    compare: view.compare.map((c) => [c.name, rounded(c.value), c.unit, rounded(c.wanted), c.better, c.digits, c.verdict].join(' | ')),
    ladder: view.ladder.map(({ name, state }) => `${name}: ${state}`),
    desk: view.desk.map((d) => [d.name, d.works, d.carriedAs, d.why].join(' | ')),
  };
}

const file = new URL('fixtures/told.json', import.meta.url);
const kept = JSON.parse(readFileSync(file, 'utf8')) as Record<string, Record<string, unknown>>;

test.each(Object.keys(cases))('%s', (name) => {
  expect(JSON.parse(JSON.stringify(told(cases[name]!)))).toEqual(kept[name]);
});

test('nothing is kept that is not told', () => {
  expect(Object.keys(kept)).toEqual(Object.keys(cases));
});
