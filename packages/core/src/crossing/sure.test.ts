import { describe, expect, test } from '@jest/globals';
import { kinds, measured, of, on, verdict } from '../../test/judged.js';
import { degrees, reached, small, trips, type Otherwise } from '../../test/small.js';
import { computeFigures, figuresAfter, type CrossingFacts } from './index.js';

/*
 * What must not be told Clear, and what must not be promised: one estate of a single crossing each. The plain one is Clear, so that
 * what is told comes from what a test makes of it.
 */

test('the plain crossing is Clear, with nothing found', () => {
  expect([verdict({}), kinds({})]).toEqual(['clear', []]);
});

describe('a line that loses or varies, on a cable too', () => {
  test.each([0.1, 0.15, 0.2])('%f of the datagrams lost over UDP is never Clear, and the line is named', (share) => {
    const { figures, findings } = of(measured({ datagrams: { passes: true, sent: 2000, lost: 2000 * share } }));
    expect(figures.verdict).toBe('limited');
    expect(findings[0]?.kind).toMatch(/the way loses|loss limits/);
    expect(findings[0]?.weight).toBe('limited');
  });

  test('what a session stands is 5 %: an interval wholly below is Clear, one across it not known, one wholly above Limited', () => {
    const at = (lost: number) =>
      of({ ...measured({ datagrams: { passes: true, sent: 2000, lost } }), location: { delayMs: 5 } }).figures.aspects.loss;
    // Clopper and Pearson for 80, 100 and 125 of 2000: up to 4.95 %, 4.09 to 6.05, from 5.23
    expect([at(80), at(100), at(125)]).toEqual(['clear', 'unknown', 'limited']);
  });

  test('round trips that vary by 400 ms on a cable are not Clear, and told as what they are', () => {
    const { figures, findings } = of(measured({ roundTrips: trips(20, { p95Ms: 420 }) }));
    expect(figures.verdict).toBe('limited');
    expect(findings.map(({ kind }) => kind)).toContain('the way holds packets up');
    // 30 · 0.95^(400 · 30 / 1000 − 1)
    expect(figures.frames.value).toBeCloseTo(30 * 0.95 ** 11, 1);
    expect(figures.delay.worst.value - figures.delay.value).toBeCloseTo(400, 0);
  });

  test('pings that are lost count where UDP is blocked: the same as over TCP by a setting', () => {
    const pings = { roundTrips: trips(60, { samples: 495, lost: 5 }) };
    const blocked = of(measured({ ...pings, datagrams: { passes: false } })).figures;
    const byChoice = of({
      ...measured({ ...pings, datagrams: { passes: true, sent: 500, lost: 5 } }),
      settings: { 'transport.prefer': 'tcp' },
    }).figures;
    expect(blocked.way.loss.value).toBe(1);
    expect([blocked.session.transport, blocked.verdict]).toEqual(['tcp', byChoice.verdict]);
    expect(blocked.frames.value).toBeCloseTo(byChoice.frames.value, 6);
    expect(blocked.verdict).not.toBe('clear');
  });

  test('none of 400 lost may be 0.92 %: over TCP that decides, over UDP it does not', () => {
    const few = measured({ roundTrips: trips(40), datagrams: { passes: true, sent: 400, lost: 0 } });
    expect(verdict({ ...few, settings: { 'transport.prefer': 'tcp' } })).toBe('unknown');
    expect(of({ ...few, settings: { 'transport.prefer': 'tcp' } }).figures.missing).toContain('loss');
    expect(verdict(few)).toBe('clear');
  });
});

describe('what is not known is not taken for good', () => {
  test.each<[string, Otherwise, string]>([
    [
      'the client’s version, where a floor counts',
      { endpoint: { clientVersion: undefined }, pool: { clientFloors: { 'native client': '9.0' } } },
      'client version',
    ],
    ['the certificate', { gateway: { certificate: undefined } }, 'certificate'],
    ['the power of the host', { host: { power: undefined } }, 'power of the hosts'],
    ['its places', { host: { used: undefined } }, 'places of the hosts'],
    ['whether UDP passes, and the loss', { measured: { upMbps: 19, addedDownMs: 0, addedUpMs: 0 } }, 'loss'],
    [
      'the rate upwards, for a call',
      {
        resource: { calls: true },
        location: { upMbps: undefined },
        measured: { datagrams: { passes: true, sent: 2000, lost: 0 }, addedDownMs: 0, addedUpMs: 0 },
      },
      'rate upwards',
    ],
  ])('%s', (_, otherwise, missing) => {
    const { figures, findings } = of(otherwise);
    expect([figures.verdict, figures.missing]).toEqual(['unknown', expect.arrayContaining([missing])]);
    expect(findings.some(({ weight }) => weight === 'unknown')).toBe(true);
  });

  test('nobody ever measured here: whether the gateway is reached at all is not known', () => {
    const { figures, findings } = of({ measured: { screens: [{ widthPx: 1920, heightPx: 1080, scale: 1 }] } });
    expect(figures.open).toEqual({ verdict: 'unknown', bay: 'Local network' });
    expect(findings.find(({ kind }) => kind === 'the line is not known')?.text).toContain('reach of the gateway');
  });

  test('a profile of unknown size: as much as 1500 MB at 50 Mbit/s would take 240 s more', () => {
    const south = 55 - 2000 / (6371 * (Math.PI / 180));
    const far = { more: { region: [{ id: 'far', name: 'Far', latitude: south, longitude: 3 }] } };
    const at = (profileMB: number | undefined) => of({ ...far, resource: { profileMB, profileRegion: 'far' } }).figures;
    expect([at(10).usable.verdict, at(undefined).usable.verdict]).toEqual(['clear', 'unknown']);
    expect(at(undefined).timeline.highS - at(0).timeline.highS).toBeCloseTo((1500 * 8) / 50, 6);
  });

  test('wired or Wi-Fi: a device that is switched on joins its network in 2 s or in 4', () => {
    const joins = (connection?: string) =>
      of({ endpoint: { connection, alwaysOn: false } }).figures.timeline.steps.find(({ name }) => name === 'network up');
    expect([joins('wired'), joins('wifi'), joins(undefined)]).toMatchObject([
      { seconds: 2, moreS: 0 },
      { seconds: 4, moreS: 0 },
      { seconds: 2, moreS: 2 },
    ]);
  });

  test('nothing known of decoders, version, certificate, power, places, connection: never Clear', () => {
    expect(
      verdict({
        endpoint: { decoders: undefined, clientVersion: undefined, connection: undefined },
        gateway: { certificate: undefined },
        host: { power: undefined, used: undefined },
      }),
    ).not.toBe('clear');
  });

  test('nineteen round trips of 300 ms widen what is known; twenty settle it', () => {
    const at = (samples: number) => of(measured({ roundTrips: trips(300, { samples }) })).figures;
    expect([at(19).verdict, at(20).verdict]).toEqual(['unknown', 'limited']);
    expect(at(19).way.rtt).toMatchObject({ value: 300, high: 301 });
    expect(at(19).way.rtt.low).toBeLessThan(20);
  });
});

describe('both legs of the way', () => {
  // person and gateway together, the host 9000 km off; another gateway beside the host
  const far: Otherwise = {
    host: { region: 'away' },
    more: {
      region: [{ id: 'away', name: 'Away', latitude: 55 - degrees(9000), longitude: 3 }],
      gateway: [
        {
          id: 'other',
          name: 'Other',
          region: 'away',
          address: 'other.example',
          certificate: { names: ['other.example'], notBefore: '2026-01-01', notAfter: '2027-12-31', trust: 'public' },
          securityModes: ['tls', 'pre-session'],
        },
      ],
    },
    ...measured({ roundTrips: trips(10) }),
  };

  test('another gateway does not bring a host nearer; a host near by does, as what must be set up', () => {
    const { figures, findings } = of(far);
    // 1.5 · 90 + 1
    expect(figures.delay.parts.find(({ name }) => name === 'way to the host')?.ms).toBeCloseTo(136, 0);
    const finding = findings.find(({ kind }) => kind === 'round trip above the threshold for the work')!;
    expect(finding.remedies.map(({ text }) => text)).not.toContain('Go by Other');
    const placed = finding.remedies.find(({ text }) => /^Have a host for Hall in Near/.test(text))!;
    expect([placed.effect?.becomes, placed.applicable]).toEqual(['clear', false]);
  });

  test('what going by another gateway is promised to do, it does', () => {
    const facts = small({ ...far, endpoint: on.endpoint });
    const moved = { patches: [{ do: 'change' as const, kind: 'pool' as const, id: 'pool', set: { gateway: 'other' } }], hypotheses: [] };
    const after = figuresAfter(facts, moved)!;
    const really = computeFigures(small({ ...far, endpoint: on.endpoint, pool: { gateway: 'other' } }));
    expect(after.delay.value).toBeCloseTo(really.delay.value, 9);
    // both ways the light has to go there: measured 10 ms to the near one, and the distance
    expect(after.delay.value).toBeGreaterThan(computeFigures(facts).delay.value - 5);
  });

  test('a measurement says where it went: to the near gateway, it serves the far one by the distance', () => {
    const elsewhere = (target: string | undefined) => {
      const facts = small({ ...far, endpoint: on.endpoint, pool: { gateway: 'other' } });
      const trip = facts.evidence.roundTrips!;
      return computeFigures({ ...facts, evidence: { ...facts.evidence, roundTrips: { ...trip, target } } }).way.rtt;
    };
    // 136 ms more, give or take a third; light alone takes 90
    expect(elsewhere('near')).toMatchObject({ value: expect.closeTo(145, 0), low: expect.closeTo(100, 0), source: 'computed' });
    expect(elsewhere('near').high).toBeCloseTo(10 + 135 * (4 / 3), 0);
    expect(elsewhere('away')).toMatchObject({ value: 10, low: 10, high: 10, source: 'measured' });
    // untold: as measured, or as far as it is
    expect(elsewhere(undefined)).toMatchObject({ value: 10, low: 10, high: expect.closeTo(10 + 135, 0) });
  });

  test('what a laptop’s Wi-Fi measured says of a cable beside it that the line did no worse', () => {
    const facts = small({
      ...measured({ roundTrips: trips(20, { p95Ms: 120 }), datagrams: { passes: true, sent: 1000, lost: 60 } }),
      endpoint: on.endpoint,
    });
    const borrowed = (medium: 'wifi' | 'wired', connection: 'wifi' | 'wired'): CrossingFacts => ({
      ...facts,
      endpoint: { ...facts.endpoint, connection },
      evidence: {
        ...facts.evidence,
        roundTrips: { ...facts.evidence.roundTrips!, own: false, medium },
        datagrams: { ...facts.evidence.datagrams!, own: false, medium },
      },
    });
    const { way } = computeFigures(borrowed('wifi', 'wired'));
    expect(way.loss).toMatchObject({ value: 0, low: 0, high: expect.closeTo(7.7, 0) });
    expect(way.spreadMs).toMatchObject({ value: 0, high: 100 });
    // the other way round the cable’s figures are the least that Wi-Fi does
    const wifi = computeFigures(borrowed('wired', 'wifi')).way;
    expect(wifi.loss).toMatchObject({ value: 6, high: expect.closeTo(9.7, 0) });
    expect(wifi.localMs).toMatchObject({ value: 8, low: 3, high: 20 });
  });
});

describe('calls', () => {
  test('through the host one leg is paid, once: 300 ms and 2 % are 3.6, not 2.8', () => {
    const call = (offload: boolean) =>
      of({
        ...measured({ roundTrips: trips(300), datagrams: { passes: true, sent: 2000, lost: 40, jitterMs: 4 } }),
        resource: { calls: true, work: 'calls' },
        settings: { 'media.callOffload': offload },
      }).figures.voice;
    // 150 + 40 + 40 + 30 + 20 + 20 = 300 ms: Idd 14.8; 2 % of G.711 with concealment: 95 · 2 / 27.1 = 7.0; R 71.4
    expect(call(false).host?.r).toBeCloseTo(93.2 - 14.8 - 7.01, 0);
    // 150 + 20 + 30 + 20 = 220 ms: Idd = 25 · ((1 + 2.167)^(1/6) − 3 · (1 + 0.00297)^(1/6) + 2) = 5.26
    expect(call(true).endpoint?.r).toBeCloseTo(93.2 - 5.26 - 7.01, 1);
    expect(call(false).host!.mos - call(true).endpoint!.mos).toBeGreaterThan(-0.5);
  });

  test('what straddles the threshold is not known, from above and from below', () => {
    const call = (lost: number) =>
      of({
        ...measured({ roundTrips: trips(60), datagrams: { passes: true, sent: 200, lost, jitterMs: 4 } }),
        resource: { calls: true, work: 'calls' },
        settings: { 'media.callOffload': true },
      }).figures.aspects.voice;
    expect([call(0), call(6), call(8), call(9), call(40)]).toEqual(['clear', 'unknown', 'unknown', 'unknown', 'limited']);
  });
});

describe('decoders', () => {
  const h264 = (level: string) => ({ endpoint: { decoders: [{ codec: 'h264', level }], cores: 1, processor: 'armhf' } });

  test('levels of the tables count, one in no table is not known', () => {
    // 3.0 takes 40 500 macroblocks: not even the frame of 8160 fits its 1620, so the processor does it
    expect(of(h264('3.0')).figures.frames.decoding).toMatchObject({ by: 'processor' });
    expect(of(h264('4.1')).figures.frames.decoding).toMatchObject({ by: 'hardware', capacity: 245_760 });
    expect(of(h264('9')).figures).toMatchObject({ frames: { missing: 'decoders', decoding: { by: 'not known' } }, verdict: 'unknown' });
  });

  test('where the delay alone hangs on who decodes, that is told too', () => {
    // 3840 × 1080 at 24 Hz: enough frames either way, but 135 to 157 ms of the 150 that are wanted
    const { figures, findings } = of({
      ...measured({ roundTrips: trips(20) }),
      endpoint: { decoders: [{ codec: 'h264', level: '9' }], screens: [{ widthPx: 3840, heightPx: 1080, refreshHz: 24 }] },
    });
    expect(figures).toMatchObject({ verdict: 'unknown', aspects: { frames: 'clear' }, doubts: { delay: 'decoders' } });
    expect(findings.map(({ kind, evidence }) => [kind, evidence[0]?.text])).toContainEqual([
      'the decoders are not known',
      'on the processor each frame takes longer to decode',
    ]);
  });

  test('a frame that is larger than the level holds is not decoded by it, however many it could do', () => {
    // AV1 6.0 takes it; H.264 4.2 holds 8704 macroblocks, 2560 × 1440 are 14 400
    const wide = (decoder: object) =>
      of({ endpoint: { decoders: [decoder], screens: [{ widthPx: 2560, heightPx: 1440, refreshHz: 60 }] } }).figures.frames.decoding.by;
    expect([wide({ codec: 'h264', level: '4.2' }), wide({ codec: 'h264', level: '5' })]).toEqual(['processor', 'hardware']);
  });

  test('what a browser answers says nothing of the native client on the same device', () => {
    const answers = {
      measured: {
        ...reached,
        decodes: [{ codec: 'h264' as const, mode: '2160p60' as const, supported: true, smooth: true, hardware: true }],
      },
    };
    const by = (clientKind: string) => of({ ...answers, endpoint: { clientKind, decoders: [], cores: 4 } }).figures.frames.decoding.by;
    expect([by('browser'), by('native client')]).toEqual(['hardware', 'processor']);
  });
});
