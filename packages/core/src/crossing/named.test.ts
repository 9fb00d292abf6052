import { describe, expect, test } from '@jest/globals';
import { kinds, measured, of, on } from '../../test/judged.js';
import { small, trips, type Otherwise } from '../../test/small.js';
import { isApplicable } from '../change/index.js';
import { burdenTable } from './effect.js';
import { figure } from './finding.js';
import { computeFigures } from './index.js';

/*
 * What is wrong is told by its own cause, what is shared by whom it is shared with, and nothing is promised that cannot be: one estate of
 * a single crossing each.
 */

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
