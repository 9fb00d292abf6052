import { describe, expect, test } from '@jest/globals';
import { small, taken, trips, type Otherwise } from '../../test/small.js';
import type { Evidence } from '../evidence/index.js';
import { rfc5348Mbps } from '../link/index.js';
import { retransmissionTimeout } from '../picture/index.js';
import type { DemandOnLine } from './demandOf.js';
import type { CrossingFacts } from './facts.js';
import { computeFigures } from './index.js';
import type { Session } from './session.js';
import { lossBoundMbps, wayOf } from './way.js';

// of four million that came back none holds anything
const calm: Partial<Evidence> = {
  roundTrips: taken(trips(50, { samples: 4e6 })),
  downMbps: taken(100),
  upMbps: taken(20),
  addedDownMs: taken(0),
  addedUpMs: taken(0),
};
interface Tried {
  evidence?: Partial<Record<keyof Evidence, unknown>>;
  otherwise?: Otherwise;
  session?: Partial<Session>;
  demand?: Partial<DemandOnLine>;
  facts?: Partial<CrossingFacts>;
}
const way = ({ evidence = {}, otherwise = {}, session = {}, demand = {}, facts: more = {} }: Tried = {}) => {
  const facts = { ...small(otherwise), ...more };
  const base = computeFigures(facts);
  return wayOf(
    { ...facts, evidence: { ...calm, ...evidence } as Evidence },
    base.settings,
    { ...base.session, ...session },
    { ...base.onLine, meanMbps: 2, upMbps: 1, besideP95Mbps: 0, ...demand },
  );
};
const span = (of: { value: number; low: number; high: number } | null) => of && [of.value, of.low, of.high];
const datagrams = (lost: number, more: object = {}) => taken({ passes: true, sent: 2000, lost, ...more });

describe('what a session can have', () => {
  test('all of the line where nobody else is on it, nothing is lost, and nothing holds it', () => {
    const free = way();
    expect([span(free.available), free.bound, free.lossBound, free.peopleAtOnce]).toEqual([[100, 100, 100], 'line', false, 1]);
    expect(span(free.availableUp)).toEqual([20, 20, 20]);
    expect([span(free.down), span(free.up), free.rttKnown]).toEqual([[100, 100, 100], [20, 20, 20], true]);
  });
  test('not known where the rate is not; of the other way nothing hangs on it', () => {
    const none = way({ evidence: { downMbps: undefined }, otherwise: { location: { downMbps: undefined } } });
    expect(none).toMatchObject({ available: null, down: null, busyShare: { down: 0, up: 0.05 }, peopleAtOnce: 1, storm: undefined });
    const up = way({ evidence: { upMbps: undefined }, otherwise: { location: { upMbps: undefined } } });
    expect(up).toMatchObject({ availableUp: null, up: null, busyShare: { down: 0.02, up: 0 } });
  });
  test('what is played beside is on the line too, and a little is always left', () => {
    expect(span(way({ demand: { besideP95Mbps: 30 } }).available)).toEqual([70, 70, 70]);
    expect(span(way({ demand: { besideP95Mbps: 300 } }).available)).toEqual([0.01, 0.01, 0.01]);
  });
  test('a cap holds it where it is below what the line may give', () => {
    const capped = (mbps: number) => {
      const { available, bound } = way({ otherwise: { settings: { 'transport.capMbps': mbps } } });
      return [span(available), bound];
    };
    expect(capped(40)).toEqual([[40, 40, 40], 'session cap']);
    expect(capped(100)).toEqual([[100, 100, 100], 'line']);
  });
  test('Wi-Fi holds it at what its signal lets through', () => {
    const held = way({
      otherwise: { endpoint: { connection: 'wifi', wifiSignalDbm: -76 } },
      evidence: { downMbps: taken(100, { own: false }) },
    });
    expect(held.bound).toBe('Wi-Fi');
    expect(held.available!.value).toBeLessThan(100);
    expect(held.available!.high).toBeLessThanOrEqual(100);
  });
  test('loss holds it: TCP by RFC 5348, UDP at ten times that; at the worst by the most that may be lost on the longest way', () => {
    expect(lossBoundMbps(50, 1, 'tcp')).toBeCloseTo(rfc5348Mbps(50, 0.01), 12);
    expect(lossBoundMbps(50, 1, 'udp')).toBeCloseTo(10 * rfc5348Mbps(50, 0.01), 12);
    const at = (session: Partial<Session>, lost = 40) =>
      way({ evidence: { datagrams: datagrams(lost), roundTrips: taken(trips(50, { medianLowMs: 45, medianHighMs: 60 })) }, session });
    const tcp = at({ transport: 'tcp', mayBeTcp: false });
    expect(tcp.available).toMatchObject({
      value: lossBoundMbps(50, 2, 'tcp'),
      low: lossBoundMbps(60, tcp.loss.high, 'tcp'),
      high: lossBoundMbps(45, tcp.loss.low, 'tcp'),
    });
    expect([tcp.bound, tcp.lossBound]).toEqual(['loss', true]);
    const udp = at({ transport: 'udp', mayBeTcp: false });
    expect(udp.available!.value).toBeCloseTo(lossBoundMbps(50, 2, 'udp'), 9);
    expect(udp.available!.low).toBeCloseTo(lossBoundMbps(60, udp.loss.high, 'udp'), 9);
    // where it may be TCP, the worst is TCP’s
    expect(at({ transport: 'udp', mayBeTcp: true }).available!.low).toBeCloseTo(lossBoundMbps(60, udp.loss.high, 'tcp'), 9);
  });
});

describe('shared with others', () => {
  const others = {
    count: 40,
    activeShare: 0.5,
    activeLow: 0.4,
    activeHigh: 0.6,
    meanMbps: 1,
    sdMbps: 0.5,
    upMeanMbps: 0.1,
    upSdMbps: 0.05,
  };
  const shared = (more: Partial<Tried> = {}) => way({ ...more, facts: { others, ...more.facts } });
  test('how busy it is: what the others ask on average and this one, of what it carries; full at the most', () => {
    const { busyShare, peopleAtOnce } = shared();
    // 40 · 0.5 · 1 and 2 of 100; 40 · 0.5 · 0.1 and 1 of 20; 20 + 1.645 · √10 = 25.2
    expect([busyShare.down, busyShare.up, peopleAtOnce]).toEqual([expect.closeTo(0.22, 9), expect.closeTo(0.15, 9), 27]);
    expect(shared({ demand: { meanMbps: 500, upMbps: 500 } }).busyShare).toEqual({ down: 1, up: 1 });
    // a declared rate carries a twentieth less
    const declared = shared({ evidence: { downMbps: undefined, upMbps: undefined } });
    expect(declared.busyShare).toEqual({ down: expect.closeTo(22 / 95, 9), up: expect.closeTo(3 / 19, 9) });
    // the others take no more than a session may
    expect(shared({ otherwise: { settings: { 'transport.capMbps': 0.5 } } }).busyShare.down).toBeCloseTo((40 * 0.5 * 0.5 + 2) / 100, 9);
  });
  test('who signs on at the beginning of the day: everybody who comes, on what the line carries', () => {
    expect(shared().storm).toEqual({ value: 21, low: 17, high: 25, lineMbps: 100 });
    expect(shared({ evidence: { downMbps: undefined } }).storm?.lineMbps).toBe(95);
    expect(way().storm).toBeUndefined();
    // the day begins at eight: nobody comes with one who looks at noon
    expect([shared({ facts: { hour: 8 } }).storm?.value, shared({ facts: { hour: 12 } }).storm]).toEqual([21, undefined]);
  });
  test('of the working day the hour in which a session gets least; of an hour that is asked for, that one', () => {
    expect(shared().hour).not.toBe(8);
    const [first, full, evening] = [8, 11, 20].map((hour) => shared({ facts: { hour } }).available!.value);
    expect(first).toBeGreaterThan(full!);
    expect(evening).toBeGreaterThan(first!);
    expect(shared().available!.value).toBeCloseTo(full!, 9);
    expect(shared({ facts: { hour: 20 } })).toMatchObject({ hour: 20, rttHour: 20 });
  });
  test('the same desk is looked up once, another is not taken for it', () => {
    const facts = { ...small(), others, evidence: calm as Evidence };
    const { settings, session, onLine } = computeFigures(facts);
    const of = (more: Partial<CrossingFacts>) => wayOf({ ...facts, ...more }, settings, session, onLine);
    const before = of({});
    expect(of({}).rtt).toBe(before.rtt);
    const { line, endpoint, location, gatewayRegion, estate } = facts;
    const assumed = { ...estate.assumed, wifi: { ...estate.assumed.wifi, waitMs: 99 } };
    const changed: [Partial<CrossingFacts>, (of: typeof before) => unknown][] = [
      [{ evidence: { ...calm, roundTrips: taken(trips(70)) } as Evidence }, ({ rtt }) => rtt.value],
      [{ line: { ...line, lineKind: '4g' } }, ({ down }) => down?.value],
      [{ endpoint: { ...endpoint, connection: 'wifi' } }, ({ localMs }) => localMs.source],
      [{ location: { ...location, worksFrom: '20:00', worksTo: '21:00' } }, ({ hour }) => hour],
      [{ others: { ...others, count: 80 } }, ({ peopleAtOnce }) => peopleAtOnce],
      [{ hour: 3 }, ({ hour }) => hour],
      [{ gatewayRegion: { ...gatewayRegion, id: 'elsewhere', latitude: 10 } }, ({ rtt }) => rtt.value],
      [{ estate: { ...estate, assumed }, endpoint: { ...endpoint, connection: undefined } }, ({ localMs }) => localMs.value],
    ];
    for (const [more, what] of changed) {
      expect([more, what(of(more))]).not.toEqual([more, what(before)]);
      expect(what(of({}))).toEqual(what(before));
    }
    const narrow = wayOf(facts, { ...settings, 'transport.capMbps': 3 }, session, onLine);
    expect(narrow.available!.value).toBe(3);
    expect(wayOf(facts, settings, session, onLine).available).toEqual(before.available);
  });
});

describe('delay under load', () => {
  const busy = (evidence: Tried['evidence'], demand = { meanMbps: 50, upMbps: 5 }) => {
    const { busyMs } = way({ evidence: evidence ?? {}, demand });
    return [busyMs.value, busyMs.low, busyMs.high, busyMs.source];
  };
  test('what it adds while it is full, by how busy it is; the worse way counts', () => {
    // half of down, a quarter of up
    expect(busy({ addedDownMs: taken(80), addedUpMs: taken(40) })).toEqual([40, 40, 40, 'measured']);
    expect(busy({ addedDownMs: taken(10), addedUpMs: taken(80) })).toEqual([20, 20, 20, 'measured']);
  });
  test('where one way is not measured, it may add as much as any; where neither is, nothing is known', () => {
    expect(busy({ addedDownMs: taken(20), addedUpMs: undefined })).toEqual([10, 10, 25, 'measured']);
    expect(busy({ addedDownMs: undefined, addedUpMs: taken(20) })).toEqual([5, 5, 50, 'measured']);
    expect(busy({ addedDownMs: taken(80), addedUpMs: undefined })).toEqual([40, 40, 40, 'measured']);
    expect(busy({ addedDownMs: undefined, addedUpMs: undefined })).toEqual([0, 0, 50, 'assumed']);
    expect(busy({ addedDownMs: undefined, addedUpMs: undefined }, { meanMbps: 10, upMbps: 18 })).toEqual([0, 0, 90, 'assumed']);
  });
  test('what is old may be anything from nothing to as much as any, by as much as it lost', () => {
    expect(busy({ addedDownMs: taken(80, { weight: 0.5 }), addedUpMs: taken(0) })).toEqual([40, 20, 45, 'measured']);
    expect(busy({ addedDownMs: taken(80), addedUpMs: taken(0, { weight: 0.25 }) })).toEqual([40, 10, 47.5, 'measured']);
  });
});

describe('what TCP waits for, and jitter', () => {
  test('its time-out by the round trip and the jitter; over UDP none, unless it may be TCP', () => {
    const timeout = (session: Partial<Session>, jitterMs?: number) => {
      const { timeoutMs } = way({ session, evidence: { datagrams: datagrams(0, jitterMs === undefined ? {} : { jitterMs }) } });
      return [timeoutMs.value, timeoutMs.low, timeoutMs.high];
    };
    const wanted = (jitterMs: number) => {
      const { usualMs, probeMs, standardMs } = retransmissionTimeout(50, jitterMs);
      return [usualMs, Math.min(usualMs, probeMs), standardMs];
    };
    expect(timeout({ transport: 'tcp', mayBeTcp: false })).toEqual(wanted(2));
    expect(timeout({ transport: 'tcp', mayBeTcp: false }, 30)).toEqual(wanted(30));
    expect(timeout({ transport: 'udp', mayBeTcp: true }, 30)).toEqual(wanted(30));
    expect(timeout({ transport: 'udp', mayBeTcp: false }, 30)).toEqual([0, 0, 0]);
  });
  test('jitter of datagrams, else of round trips, else none', () => {
    const jitter = (ofDatagrams: number | undefined, ofTrips: number | undefined) =>
      way({
        evidence: {
          datagrams: datagrams(0, { jitterMs: ofDatagrams }),
          roundTrips: taken(trips(50, ofTrips === undefined ? {} : ({ jitterMs: ofTrips } as object))),
        },
      }).jitterMs;
    expect([jitter(3, 9), jitter(undefined, 9), jitter(0, 9), jitter(undefined, undefined)]).toEqual([3, 9, 0, null]);
  });
  test('loss that was counted is known', () => {
    expect([way({ evidence: { datagrams: datagrams(4) } }).lossKnown, way({ evidence: { roundTrips: undefined } }).lossKnown]).toEqual([
      true,
      false,
    ]);
  });
});
