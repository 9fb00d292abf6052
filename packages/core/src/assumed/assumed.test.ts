import { describe, expect, test } from '@jest/globals';
import { of } from '../../test/judged.js';
import { reached, trips, type Otherwise } from '../../test/small.js';
import { assumedFigures, assumedOf, faultOfAssumed, shippedAssumed } from './index.js';

describe('figures that are assumed', () => {
  test('each has words, a unit, bounds around what is shipped, and says where it is from', () => {
    expect(new Set(assumedFigures.map(({ key }) => key)).size).toBe(assumedFigures.length);
    for (const { key, words, unit, value, least, most, source } of assumedFigures) {
      expect([key, words.length > 5, unit.length > 0, least <= value && value <= most]).toEqual([key, true, true, true]);
      expect(source).toMatch(/^(common practice|from memory), no source$/);
    }
    expect(faultOfAssumed({})).toBeNull();
  });

  test('every kind of line takes from low to high; by a satellite that stands still nothing is quicker than 4 × 35 786 km', () => {
    for (const { words, delayLowMs, delayHighMs, framingShare } of Object.values(shippedAssumed.lines)) {
      expect(words).not.toBe('');
      expect(delayLowMs).toBeGreaterThan(0);
      expect(delayHighMs).toBeGreaterThan(delayLowMs);
      expect([0.05, 0.1]).toContain(framingShare);
    }
    expect(shippedAssumed.lines['geo-satellite'].delayLowMs).toBeGreaterThan(477);
  });

  test('lines start as the handbook of the trade has them: round trips in ms, and framing 10 % of DSL, 5 of cable and fibre', () => {
    const { lines } = shippedAssumed;
    const span = (kind: keyof typeof lines) => [lines[kind].delayLowMs, lines[kind].delayHighMs];
    expect((['fibre', 'dsl', 'cable', '4g', '5g', 'leo-satellite', 'geo-satellite'] as const).map(span)).toEqual([
      [5, 15],
      [20, 40],
      [10, 30],
      [40, 70],
      [15, 40],
      [30, 60],
      [550, 650],
    ]);
    expect([lines.dsl.framingShare, lines.cable.framingShare, lines.fibre.framingShare]).toEqual([0.1, 0.05, 0.05]);
  });

  test('each field that is read is there, and each figure stands under its subject', () => {
    const n: unknown = expect.any(Number);
    const { wifi, people, evidence, host, signon, bringup, finding, day, addedUnderLoadHighMs } = shippedAssumed;
    const steps =
      'bootThin bootOther wired wifi browser client password code codeLow codeHigh list choose broker powerOn wake create profile shellApp shellDesktop';
    expect([addedUnderLoadHighMs, wifi, people, evidence, host, signon, bringup, finding]).toEqual([
      n,
      { waitMs: n, waitLowMs: n, waitHighMs: n, lossHighPercent: n, signalLowDbm: n, signalHighDbm: n, cellShared: n, cellOwn: n },
      { activeShare: n, activeLow: n, activeHigh: n, first: n, last: n, break: n, outside: n, stormMinutes: n },
      { fewestRoundTrips: n, freshDays: n, halvesInDays: n },
      { drawMs: n, processorMs: n, cardMs: n, drawnByProcessorFps: n },
      { ...Object.fromEntries(steps.split(' ').map((step) => [`${step}S`, n])), giveShare: n, profileHighMB: n },
      { answerMs: n, connectS: n, joinS: n, storeS: n, timeS: n, writeMBps: n, signInS: n, clockS: n },
      { worstDelayFactor: n, blocked: 1, limited: 1, unknown: 1, risk: 1 },
    ]);
    expect(day).toEqual({ worksFrom: '08:00', worksTo: '18:00', worksOn: ['mon', 'tue', 'wed', 'thu', 'fri'] });
    const subjects = {
      line: 'Lines',
      wifi: 'Wi-Fi',
      people: 'People on a line',
      evidence: 'Evidence',
      host: 'Hosts',
      signon: 'Sign-on',
      bringup: 'Bring-up',
      finding: 'Findings',
    };
    for (const { key, subject } of assumedFigures)
      expect([key, subject]).toEqual([key, subjects[key.split('/')[0] as keyof typeof subjects]]);
  });

  test.each([
    ['wifi/waitLowMs', 8],
    ['wifi/waitMs', 20],
    ['wifi/signalLowDbm', -50],
    ['people/activeLow', 0.6],
    ['people/activeShare', 0.8],
    ['signon/codeLowS', 10],
    ['signon/codeS', 20],
  ])('%s may be %d, and no more', (key, most) => {
    expect(faultOfAssumed({ [key]: most })).toBeNull();
    const fault = faultOfAssumed({ [key]: most + 0.001 });
    expect(fault).toMatchObject({ field: `assumed.${key}`, problem: `must not be above ${most}` });
    expect(fault?.expected).toMatch(/^at most what “.+” is/);
  });

  test('a bound itself is within, and what is expected is said', () => {
    expect([faultOfAssumed({ 'people/activeHigh': 1 }), faultOfAssumed({ 'people/activeLow': 0 })]).toEqual([null, null]);
    expect(faultOfAssumed({ 'wifi/signalHighDbm': -29 })?.expected).toBe('Signal where nobody told it, at best: -95 to -30 dBm');
    expect(faultOfAssumed({ nothing: 1 })?.expected).toBe('a key such as people/activeShare');
  });

  test('days of an organisation count where a place says none', () => {
    expect(assumedOf({ worksOn: ['sat'] }).day).toEqual({ worksFrom: '08:00', worksTo: '18:00', worksOn: ['sat'] });
    expect(assumedOf({ assumed: { 'line/cable/eveningDelayMs': 0 } }).lines.cable.evening).toEqual({ share: 0.8, delayMs: 0 });
  });

  test('what an organisation says replaces what is shipped, and nothing else', () => {
    const says = { assumed: { 'line/4g/delayLowMs': 33, 'people/break': 0.9 }, worksFrom: '06:00', worksTo: '14:00' };
    const own = assumedOf(says);
    expect(own).toEqual({
      ...shippedAssumed,
      lines: { ...shippedAssumed.lines, '4g': { ...shippedAssumed.lines['4g'], delayLowMs: 33 } },
      people: { ...shippedAssumed.people, break: 0.9 },
      day: { ...shippedAssumed.day, worksFrom: '06:00', worksTo: '14:00' },
    });
    expect(assumedOf(says)).toBe(own);
    // an evening that takes nothing is none
    expect(assumedOf({ assumed: { 'line/cable/eveningShare': 1, 'line/cable/eveningDelayMs': 0 } }).lines.cable.evening).toBeNull();
    expect(assumedOf({ assumed: { 'line/cable/eveningShare': 1 } }).lines.cable.evening).toEqual({ share: 1, delayMs: 10 });
  });

  test.each([
    [{ 'people/nobody': 1 }, 'assumed.people/nobody', 'no figure that is assumed is called “people/nobody”'],
    [{ 'people/activeShare': 1.01 }, 'assumed.people/activeShare', '1.01 is not 0 to 1 of 1'],
    [{ 'wifi/signalLowDbm': -96 }, 'assumed.wifi/signalLowDbm', '-96 is not -95 to -30 dBm'],
    [{ 'line/4g/delayLowMs': 71 }, 'assumed.line/4g/delayLowMs', 'must not be above 70'],
    [{ 'line/4g/delayHighMs': 39 }, 'assumed.line/4g/delayHighMs', 'must not be below 40'],
    [{ 'signon/codeHighS': 9 }, 'assumed.signon/codeHighS', 'must not be below 10'],
  ])('%j is refused, and where', (assumed, field, problem) => {
    expect(faultOfAssumed(assumed)).toMatchObject({ field, problem });
  });

  test.each([{ 'line/4g/delayLowMs': 70 }, { 'people/activeShare': 0.4 }, { 'wifi/signalLowDbm': -95 }])('%j is just within', (assumed) => {
    expect(faultOfAssumed(assumed as never)).toBeNull();
  });
});

describe('an estate that assumes something else is judged by it', () => {
  const under = (assumed: object, otherwise: Otherwise = {}) =>
    of({ ...otherwise, more: { ...otherwise.more, organisation: [{ id: 'organisation', name: 'Own', assumed }] } });
  const measured = { ...reached, roundTrips: trips(20), downMbps: 95 };

  // each with what it is shipped as: one row where it decides, by a figure that can be read off
  test.each<[string, object, Otherwise, (e: ReturnType<typeof of>) => unknown, unknown, unknown]>([
    [
      'the delay of a kind of line',
      { 'line/fibre/delayHighMs': 95 },
      { location: { delayMs: undefined }, measured: { screens: [] } as never },
      (e) => Math.round(e.figures.way.rtt.high),
      16,
      96,
    ],
    ['framing', { 'line/fibre/framingShare': 0.5 }, { measured: reached }, (e) => e.figures.way.available?.value, 95, 50],
    ['how a line varies', { 'line/fibre/spreadHighMs': 77 }, {}, (e) => e.figures.way.spreadMs.high, 5, 77],
    [
      'loss that is not ruled out',
      { 'line/fibre/lossHighPercent': 7 },
      { measured: { screens: [] } as never },
      (e) => e.figures.way.loss.high,
      1,
      7,
    ],
    [
      'the evening',
      { 'line/4g/eveningShare': 1, 'line/4g/eveningDelayMs': 0 },
      { location: { lineKind: '4g' }, measured },
      (e) => e.figures.way.rtt.value,
      26,
      20,
    ],
    [
      'a full line',
      { 'line/addedUnderLoadHighMs': 10 },
      { measured: { ...measured, addedDownMs: undefined, addedUpMs: undefined } as never, location: { sharedBy: 90, activeShare: 1 } },
      (e) => e.figures.way.busyMs.high,
      100,
      10,
    ],
    [
      'the wait on Wi-Fi',
      { 'wifi/waitHighMs': 90 },
      { endpoint: { connection: 'wifi', wifiSignalDbm: -50 } },
      (e) => e.figures.way.localMs.high,
      20,
      90,
    ],
    [
      'loss of Wi-Fi',
      { 'wifi/lossHighPercent': 9 },
      { endpoint: { connection: 'wifi' }, measured: { screens: [] } as never },
      (e) => e.figures.way.loss.high,
      3,
      10,
    ],
    [
      'who is active',
      { 'people/activeLow': 0.6, 'people/activeHigh': 0.6 },
      { location: { sharedBy: 50 }, measured: { ...measured, downMbps: 200 } },
      (e) => e.figures.way.available!.low === e.figures.way.available!.high,
      false,
      true,
    ],
    ['how few round trips are none', { 'evidence/fewestRoundTrips': 300 }, { measured }, (e) => e.figures.way.rttKnown, true, false],
    ['drawing', { 'host/drawMs': 90 }, { host: { drawMs: undefined } }, (e) => e.figures.frames.drawMs, 8, 90],
    ['encoding', { 'host/processorMs': 24 }, { host: { encodeMs: undefined } }, (e) => e.figures.frames.encoding.ms, 12, 24],
    [
      'a step of the sign-on',
      { 'signon/createS': 9 },
      {},
      (e) => e.figures.timeline.steps.find(({ name }) => name === 'session create')?.seconds,
      4,
      9,
    ],
    [
      'the time for a code',
      { 'signon/codeLowS': 6, 'signon/codeS': 6, 'signon/codeHighS': 6 },
      { gateway: { secondFactor: true }, settings: { 'security.secondFactorTimeoutS': 10 }, measured },
      (e) => e.figures.missing.includes('second factor time'),
      true,
      false,
    ],
    [
      'a profile nobody weighed',
      { 'signon/profileHighMB': 1 },
      { resource: { profileMB: undefined } },
      (e) => e.figures.signon.profileHighMB,
      1500,
      1,
    ],
    [
      'the worst twentieth',
      { 'finding/worstDelayFactor': 1 },
      { measured: { ...measured, roundTrips: trips(60, { p95Ms: 130 }) } },
      (e) => e.figures.aspects.sticking,
      'clear',
      'limited',
    ],
  ])('%s', (_, assumed, otherwise, read, shipped, own) => {
    expect([read(under({}, otherwise)), read(under(assumed, otherwise))]).toEqual([shipped, own]);
  });

  test('what keeps somebody out, is short, not known or at risk weighs as the estate says', () => {
    const costs = (assumed: object, otherwise: Otherwise) => under(assumed, otherwise).findings.map(({ weight, cost }) => [weight, cost]);
    const slow = { measured: { ...measured, roundTrips: trips(200) } };
    const [[, plain] = []] = costs({}, slow);
    expect(costs({ 'finding/limited': 2 }, slow)[0]).toEqual(['limited', 2 * Number(plain)]);
    expect(costs({ 'finding/risk': 2 }, slow)[0]).toEqual(['limited', plain]);
  });
});
