import { describe, expect, test } from '@jest/globals';
import type { Host, Pool } from '@underpass/contracts';
import {
  all,
  base,
  certificate,
  dock,
  endpoint,
  home,
  host,
  line,
  measured,
  office,
  screens,
  setting,
  unmeasured,
} from '../../test/scenes.js';
import { reached, small } from '../../test/small.js';
import { chooseHost } from '../hosts/index.js';
import { computeFigures, evaluateCrossing, type CrossingFacts } from './index.js';

const found = (facts: CrossingFacts, kind: string) => evaluateCrossing(facts).findings.find((finding) => finding.kind === kind);
const part = (facts: CrossingFacts, name: string) => computeFigures(facts).delay.parts.find((each) => each.name === name)?.ms;

describe('just below and just above', () => {
  test('a certificate holds on its first day and through its last: it is 10 o’clock on 25 November', () => {
    const reason = (change: object) => computeFigures(certificate(change)(dock)).broken?.reason ?? null;
    expect([reason({ notAfter: '2026-11-25' }), reason({ notAfter: '2026-11-24' })]).toEqual([null, 'certificate expired']);
    expect([reason({ notBefore: '2026-11-25' }), reason({ notBefore: '2026-11-26' })]).toEqual([null, 'certificate not yet valid']);
  });

  test('round trips that TCP sends again prove no loss away, unless the longest is shorter than twice the shortest', () => {
    const roundTrips = { samples: 400, lost: 0, minMs: 20, medianMs: 21, p95Ms: 22, medianLowMs: 20.5, medianHighMs: 21.5 };
    const way = (maxMs: number | undefined, method?: 'ping', lost = 0) => {
      const { aspects, way: of } = computeFigures(
        small({
          measured: { ...reached, datagrams: undefined, roundTrips: { ...roundTrips, maxMs, lost } } as never,
          ...(method ? { method } : {}),
        }),
      );
      return [aspects.loss, of.loss.source, of.loss.samples];
    };
    expect([way(39.9), way(40), way(undefined)]).toEqual([
      ['clear', 'measured', 400],
      ['unknown', 'assumed', undefined],
      ['unknown', 'assumed', undefined],
    ]);
    // a ping is sent once; and what did not come at all is counted either way
    expect([way(undefined, 'ping'), way(100, undefined, 60)]).toEqual([
      ['clear', 'measured', 400],
      ['limited', 'measured', 460],
    ]);
  });

  test('Wi-Fi is good at −67 dBm and not at −68, poor at −76 and not yet at −75', () => {
    const at = (wifiSignalDbm: number) => found(endpoint({ connection: 'wifi', wifiSignalDbm })(home), 'Wi-Fi signal too low')?.text;
    expect(at(-67)).toBeUndefined();
    expect(at(-68)).toMatch(/wanted is -67/);
    expect(at(-75)).toMatch(/wanted is -67/);
    expect(at(-76)).toMatch(/which is poor/);
  });

  test('a storage stick of a personal device stays outside where such devices are limited; a camera does not, nor a managed one’s', () => {
    const works = (ownership: 'personal' | 'managed', rule: string) =>
      computeFigures(
        all(
          endpoint({ ownership, clientKind: 'native client', clientVersion: '9.9', peripherals: ['storage', 'camera'] }),
          setting('redirection.devices', ['storage', 'camera'], 'organisation', '*'),
          setting('security.personalDevices', rule),
        )(home),
      ).desk.flatMap(({ peripheral, works: does }) => (peripheral ? [does] : []));
    expect(works('personal', 'limited')).toEqual([false, true]);
    expect(works('managed', 'limited')).toEqual([true, true]);
  });

  test('a full host comes after one that must be woken, and an asleep one after one that is awake', () => {
    const made = (id: string, more: Partial<Host>): Host => ({ ...dock.hosts[0]!, id, places: 10, used: 0, power: 'on', ...more });
    const pool = { ...dock.pool, placement: 'spread' } as Pool;
    const chosen = (...hosts: Host[]) => chooseHost(pool, hosts)?.id;
    expect(chosen(made('full', { used: 10 }), made('asleep', { power: 'asleep' }))).toBe('asleep');
    expect(chosen(made('nearly', { used: 9 }), made('asleep', { power: 'asleep' }))).toBe('nearly');
    expect(chosen(made('off', { power: 'off' }), made('asleep', { power: 'asleep' }))).toBe('asleep');
    expect(chosen(made('full', { used: 10 }), made('off', { power: 'off' }))).toBe('off');
  });
});

describe('worked by hand', () => {
  test('what a line carries is its rate less what framing takes: a tenth on DSL, a twentieth on fibre', () => {
    const alone = (lineKind: 'dsl' | 'fibre') =>
      computeFigures(all(unmeasured, line({ lineKind, downMbps: 20 }))(home)).way.available?.value;
    // 20 × 0.90 and 20 × 0.95
    expect(alone('dsl')).toBeCloseTo(18, 9);
    expect(alone('fibre')).toBeCloseTo(19, 9);
  });

  test('of a hundred others, half of them active, 59 are there in the busiest second of twenty', () => {
    const shared = line({ sharedBy: 101, activeShare: 0.5 } as object)(office);
    // 50 + 1.645 × √(100 × 0.5 × 0.5) = 58.2, rounded up 59, and the person
    expect(computeFigures(shared).way.peopleAtOnce).toBe(60);
    // with 1.28 for 1.645 it would be 57.4, and so 59 in all
    const few = line({ sharedBy: 5, activeShare: 0.5 } as object)(office);
    // 2 + 1.645 × 1 = 3.6, rounded up 4: all of the four
    expect(computeFigures(few).way.peopleAtOnce).toBe(5);
  });

  test('the processor of a host takes 12 ms for a picture of 1080 lines and in proportion for a larger one', () => {
    const encode = (widthPx: number, heightPx: number) =>
      part(all(host({ graphics: undefined, encodeMs: undefined }), screens({ widthPx, heightPx }))(dock), 'encode');
    // 120 × 68 = 8160 macroblocks of 16 × 16; 240 × 135 = 32 400
    expect(encode(1920, 1080)).toBeCloseTo(12, 9);
    expect(encode(3840, 2160)).toBeCloseTo((12 * 32_400) / 8160, 9);
  });

  test('the jitter buffer is twice the jitter, and never more than 40 ms', () => {
    const buffer = (jitterMs: number) =>
      part(measured(() => ({ datagrams: { passes: true, sent: 200, lost: 0, jitterMs } }))(home), 'jitter buffer');
    expect([buffer(7), buffer(19), buffer(20), buffer(21)]).toEqual([14, 38, 40, 40]);
  });

  test('what a picture waits for and what shows it: half a frame, a refresh, and the fixed parts', () => {
    const facts = all(screens({ refreshHz: 50 }), host({ drawMs: 10 }))(dock);
    const { frames } = computeFigures(facts);
    // 1000 / 50; 500 / frames a second; 10 and 2 for the capture
    expect(part(facts, 'wait for the screen and scan-out')).toBe(20);
    expect(part(facts, 'wait for the next frame')).toBeCloseTo(500 / frames.value, 9);
    expect(part(facts, 'draw and capture')).toBe(12);
    expect([part(facts, 'keyboard poll'), part(facts, 'panel')]).toEqual([4, 5]);
  });

  test('remedies: what reaches the better verdict first; of those a setting before a record, before other people’s work', () => {
    const { remedies } = found(base('WEX-TC-020', 'timetable'), 'share of the line below the picture’s demand')!;
    const sort = remedies.map(({ applicable, change, effect }) => [
      ['clear', 'unknown', 'limited', 'blocked'].indexOf(effect!.becomes),
      applicable ? (change.patches.every(({ do: what }) => what === 'setting') ? 0 : 1) : 2,
    ]);
    expect(sort).toEqual([...sort].sort(([a, b], [c, d]) => a! - c! || b! - d!));
    // an order to the carrier comes after whatever does as much
    const widen = remedies.findIndex(({ text }) => /^Widen the line/.test(text));
    const same = sort.filter(([becomes]) => becomes === sort[widen]?.[0]).length;
    expect(widen).toBe(sort.findIndex(([becomes]) => becomes === sort[widen]?.[0]) + same - 1);
    expect(sort.filter(([becomes]) => becomes === 0).length).toBeGreaterThan(2);
  });
});
