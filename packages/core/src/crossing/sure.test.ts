import { describe, expect, test } from '@jest/globals';
import { reached, small, type Otherwise } from '../../test/small.js';
import { isApplicable } from '../change/index.js';
import { burdenTable } from './effect.js';
import { figure } from './finding.js';
import { computeFigures, evaluateCrossing, figuresAfter, type CrossingFacts } from './index.js';

/*
 * What must not be told Clear, and what must not be promised: one estate of a single crossing each. The plain one is Clear, so that
 * what is told comes from what a test makes of it.
 */
const trips = (medianMs: number, more: object = {}) => ({
  samples: 200,
  lost: 0,
  minMs: medianMs,
  medianMs,
  p95Ms: medianMs + 1,
  medianLowMs: medianMs,
  medianHighMs: medianMs,
  ...more,
});
/** A person whose device stays on, so that the time until it is usable is not what decides. */
const on = { endpoint: { alwaysOn: true } };
const of = (otherwise: Otherwise = {}) =>
  evaluateCrossing(small({ ...otherwise, endpoint: { ...on.endpoint, ...(otherwise.endpoint ?? {}) } }));
const measured = (figures: object): Otherwise => ({ measured: { ...reached, ...figures } as Otherwise['measured'] });
const kinds = (otherwise: Otherwise) => of(otherwise).findings.map(({ kind }) => kind);
const verdict = (otherwise: Otherwise) => of(otherwise).figures.verdict;

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
  const degrees = (km: number) => km / (6371 * (Math.PI / 180));
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

describe('causes, by their own name', () => {
  test('a cap of the settings is no narrow line', () => {
    const { findings } = of({ location: { downMbps: 1000 }, settings: { 'transport.capMbps': 1 } });
    expect(findings[0]).toMatchObject({ kind: 'the session’s cap below the picture’s demand', bay: 'Gateway', weight: 'limited' });
    expect(findings[0]?.remedies[0]).toMatchObject({ effect: { becomes: 'clear' } });
  });

  test('a round trip that straddles asks for round trips, not for the host’s figures', () => {
    const { figures } = of({ ...measured({ roundTrips: trips(70, { medianLowMs: 50, medianHighMs: 90, samples: 25 }) }) });
    expect([figures.aspects.delay, figures.missing]).toEqual(['unknown', ['round trips']]);
  });

  test('framing goes off a declared rate only, and an assumed share of active people decides nothing', () => {
    const rate = (figures: object) => of({ ...measured(figures), location: { downMbps: 100 } }).figures.way.available?.value;
    expect([rate({}), rate({ downMbps: 100 })]).toEqual([95, 100]);
    const busy = (activeShare: number | undefined) => of({ location: { downMbps: 130, sharedBy: 101, activeShare } }).figures;
    expect([busy(0.4).aspects.frames, busy(0.8).aspects.frames, busy(undefined).aspects.frames]).toEqual(['clear', 'limited', 'unknown']);
    expect(busy(undefined).missing).toContain('people at once');
  });

  test('TLS: a gateway that speaks 1.2 alone and settings that ask for 1.3 have nothing in common; one that nobody asked may', () => {
    const at = (gateway: object) => of({ gateway, settings: { 'security.tlsMinimum': '1.3' } }).figures;
    expect(at({ tlsHighest: '1.2' }).broken?.reason).toBe('no common security mode');
    expect(at({ tlsHighest: '1.3' }).verdict).toBe('clear');
    expect(at({}).missing).toContain('TLS of the gateway');
    expect(at({ tlsMinimum: '1.3' }).verdict).toBe('clear');
  });

  test('who is warned of a certificate only gets in', () => {
    const at = (value: string) =>
      of({
        gateway: { certificate: { names: ['x.example'], notBefore: '2026-01-01', notAfter: '2027-01-01', trust: 'public' } },
        settings: { 'security.certificateTrust': value },
      }).figures.open.verdict;
    expect([at('warn'), at('reject')]).toEqual(['clear', 'blocked']);
  });

  test('places: what is written is what is said, and whoever has a session needs none', () => {
    const full = { host: { used: 10 } };
    const [finding] = of(full).findings;
    expect(finding?.kind).toBe('no free place on the hosts');
    const [remedy] = finding!.remedies;
    expect(remedy).toMatchObject({ text: 'Give Host 1 place more', applicable: false, change: { hypotheses: [{ set: { places: 11 } }] } });
    const session = [
      {
        id: 's',
        person: 'ann',
        resource: 'desk',
        endpoint: 'e1',
        host: 'host',
        state: 'left behind',
        startedAt: '2026-11-25T07:00:00Z',
        usedAt: '2026-11-25T08:00:00Z',
      },
    ];
    expect(of({ ...full, more: { session } }).figures.open.verdict).toBe('clear');
  });

  test('a geostationary line cannot be quicker than light, on a person’s own line either', () => {
    const { way } = of({ location: { lineKind: 'geo-satellite', delayMs: 40 } }).figures;
    expect(way.rtt).toMatchObject({ source: 'assumed', low: 550, high: 650 });
  });
});

describe('what is shared', () => {
  test('video that is played on the endpoint crosses the line all the same, at its source’s rate', () => {
    const film = { resource: { content: { video: 0.5, text: 0.5 }, work: 'video' }, settings: { 'media.videoOffload': true } };
    // 1080 lines at the source: 6 Mbit/s, half of the time
    expect(of(film).figures.onLine).toMatchObject({ besideMbps: expect.closeTo(3, 6), besideP95Mbps: expect.closeTo(6, 6) });
    expect(of({ ...film, location: { downMbps: 5 } }).figures.verdict).not.toBe('clear');
  });

  test('what is paid by volume is everything, of everybody, in the hours of work', () => {
    const { findings } = of({
      location: { metered: true, sharedBy: 11, activeShare: 0.5 },
      resource: { content: { video: 0.5, text: 0.5 }, work: 'video' },
    });
    // 0.5 · 9.66 + 0.5 · 1.89 + 0.1 down and 0.05 up of each of six; 160 h
    const mbps = 6 * (0.5 * 9.2 * 1.05 + 0.5 * 1.8 * 1.05 + 0.1 + 0.05);
    const gigabytes = (mbps * 3600 * 160) / 8 / 1000;
    expect(findings.find(({ kind }) => kind === 'video on a metered line')?.text).toContain(`about ${figure(gigabytes)} GB`);
  });

  test('one camera among 46 is not held back by heads; forty-six are', () => {
    const line = {
      location: { upMbps: 10, sharedBy: 46, activeShare: 0.6 },
      measured: { datagrams: { passes: true, sent: 2000, lost: 0 }, addedDownMs: 0, addedUpMs: 0 },
    };
    const one = small({ ...line, resource: { camera: true }, endpoint: { ...on.endpoint, peripherals: ['camera'] } });
    const alone = computeFigures({ ...one, others: { ...one.others, upMeanMbps: 0.05, upSdMbps: 0 } });
    const all = computeFigures(one);
    expect(alone.aspects.sending).toBe('clear');
    expect(all.aspects.sending).toBe('limited');
  });

  test('Wi-Fi binds by its signal: none at −88 dBm, and two large screens want more than −78 gives', () => {
    const design = (dbm: number) =>
      of({
        endpoint: {
          connection: 'wifi',
          wifiSignalDbm: dbm,
          screens: [
            { widthPx: 3840, heightPx: 2160, refreshHz: 60 },
            { widthPx: 3840, heightPx: 2160, refreshHz: 60 },
          ],
        },
        resource: { content: { motion: 1 }, work: 'design' },
        location: { downMbps: 950 },
        ...measured({ roundTrips: trips(5) }),
      });
    expect(design(-88).figures.way).toMatchObject({ bound: 'Wi-Fi', available: { value: 0 } });
    expect([design(-88).figures.verdict, design(-78).figures.verdict]).toEqual(['limited', 'limited']);
    expect(design(-88).findings.map(({ kind }) => kind)).toContain('Wi-Fi below the picture’s demand');
  });
});

describe('the desk', () => {
  const screens = (n: number, more: object = {}) =>
    Array.from({ length: n }, () => ({ widthPx: 1920, heightPx: 1080, refreshHz: 60, ...more }));

  test('a screen left out by a setting does not work, and is no fault', () => {
    const { figures, findings } = of({ endpoint: { screens: screens(3) }, settings: { 'screens.most': 2 } });
    expect(figures.desk.map(({ works }) => works)).toEqual([true, true, false]);
    expect([figures.works.verdict, findings[0]?.kind]).toEqual(['clear', 'screens left out by the settings']);
  });

  test('a fifth screen is told, and one of more pixels than a browser takes', () => {
    expect(kinds({ endpoint: { screens: screens(5) } })).toContain('screens left out by the settings');
    const wide = of({ endpoint: { clientKind: 'browser', screens: [{ widthPx: 5120, heightPx: 2880, refreshHz: 60 }] } });
    expect([wide.figures.works.verdict, wide.figures.session.shrunk]).toEqual(['limited', true]);
    expect(wide.findings.find(({ kind }) => kind === 'screens exceed the client’s limit')?.text).toContain(
      'more pixels than a browser takes',
    );
    expect(wide.figures.session.activePixels).toBeLessThanOrEqual(3840 * 2160);
  });

  test('a port that carries 30 Hz shows 30 frames of 60', () => {
    const { figures } = of({
      endpoint: { screens: [{ widthPx: 3840, heightPx: 2160, refreshHz: 60, port: 'hdmi-1.4' }] },
      settings: { 'picture.frameCap': 60 },
      resource: { work: 'design' },
    });
    expect(figures.frames).toMatchObject({ value: 30, limiter: 'screen' });
  });

  test('a stick that a rule keeps out is no fault; no frames at all are worse than one device', () => {
    const stick = of({ endpoint: { peripherals: ['storage'] } });
    expect([stick.figures.verdict, stick.figures.desk.find(({ peripheral }) => peripheral === 'storage')?.meant]).toEqual(['clear', true]);
    const dark = of({ endpoint: { peripherals: ['card-reader'] }, location: { downMbps: 0.01 } });
    const cost = (kind: string) => dark.findings.find((finding) => finding.kind === kind)!.cost;
    expect(cost('share of the line below the picture’s demand')).toBeGreaterThan(cost('a peripheral has no way through'));
  });
});

test('no remedy that is applied writes a fact that somebody has to bring about', () => {
  const troubles: Otherwise[] = [
    { gateway: { certificate: { names: ['gate.example'], notBefore: '2025-01-01', notAfter: '2025-12-31', trust: 'public' } } },
    { host: { power: 'off' } },
    { host: { used: 10 } },
    { endpoint: { clientVersion: '1.0' }, pool: { clientFloors: { 'native client': '9.0' } } },
    { endpoint: { ownership: 'personal' }, pool: { managedOnly: true } },
    { resource: { graphics: true }, host: { graphics: { card: false } } },
    { gateway: { udp: false, codecs: ['progressive'] } },
  ];
  const facts = new Set([
    'certificate.notAfter',
    'certificate.notBefore',
    'certificate.trust',
    'region',
    'places',
    'power',
    'clientVersion',
    'ownership',
    'udp',
    'codecs',
    'profileMB',
    'drawMs',
  ]);
  for (const trouble of troubles)
    for (const { remedies } of of(trouble).findings)
      for (const { change } of remedies)
        if (isApplicable(change))
          for (const patch of change.patches)
            if (patch.do === 'change')
              expect(Object.keys(patch.set ?? {}).filter((field) => facts.has(field) || field.startsWith('graphics.'))).toEqual([]);
});

test('every weight of the burden has its reason, and what is worse for the person never weighs less', () => {
  for (const { of: what, because } of burdenTable) expect([what, because.length > 10]).toEqual([what, true]);
  expect(new Set(burdenTable.map(({ of: what }) => what)).size).toBe(burdenTable.length);
});
