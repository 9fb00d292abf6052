import { describe, expect, test } from '@jest/globals';
import type { Decoder, Endpoint, Gateway, Host, Pool, Resource, Screen, SettingValue } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../../test/demo.js';
import type { Evidence } from '../../evidence/index.js';
import { modelOf } from '../../estate/index.js';
import { computeFigures, evaluateCrossing, FactsReader, withChange, type CrossingFacts } from '../index.js';
import { findingKinds } from './index.js';

const { estate, measurements } = demoEstate();
const reader = new FactsReader(modelOf(estate, measurements), demoInstant);
const base = (endpoint: string, resource: string): CrossingFacts => {
  const ref = reader.model.crossings.find((each) => each.endpoint === endpoint && each.resource === resource);
  return (ref && reader.read(ref)) as CrossingFacts;
};

/** A sound crossing of each sort: nothing is found on them, so whatever a scenario finds comes from its own fault. */
const office = base('SAN-TC-001', 'counter');
const home = base('CD-001', 'call-desktop');
const dock = base('GUL-012', 'workshop');

type Setup = (facts: CrossingFacts) => CrossingFacts;
const endpoint =
  (change: Partial<Endpoint>): Setup =>
  (facts) => ({
    ...facts,
    endpoint: { ...facts.endpoint, ...change },
    subject: { ...facts.subject, clientKind: change.clientKind ?? facts.subject.clientKind },
  });
const line =
  (change: Partial<CrossingFacts['line']>): Setup =>
  (facts) => ({ ...facts, line: { ...facts.line, ...change } });
const gateway =
  (change: Partial<Gateway>): Setup =>
  (facts) => ({ ...facts, gateway: { ...facts.gateway, ...change } });
const pool =
  (change: Partial<Pool>): Setup =>
  (facts) => ({ ...facts, pool: { ...facts.pool, ...change } });
const host =
  (change: Partial<Host>): Setup =>
  (facts) => ({ ...facts, hosts: facts.hosts.map((each) => ({ ...each, ...change })) });
const resource =
  (change: Partial<Resource>): Setup =>
  (facts) => ({ ...facts, resource: { ...facts.resource, ...change } });
const setting =
  (key: string, value: SettingValue, layer: 'endpoint' | 'organisation' = 'endpoint', target?: string): Setup =>
  (facts) =>
    withChange(facts, [{ type: 'setting', key: key as 'picture.frameCap', layer, target: target ?? facts.endpoint.id, value }]);
const evidence =
  (change: (now: Evidence) => Partial<Evidence>): Setup =>
  (facts) => ({ ...facts, evidence: { ...facts.evidence, ...change(facts.evidence) } });
const taken = <T>(value: T) => ({ value, at: '2026-11-20T08:00:00Z', by: 'field check', note: 'field check', samples: 200 });
const screen = (more: Partial<Screen> = {}): Screen => ({ widthPx: 1920, heightPx: 1080, refreshHz: 60, scale: 1, ...more });
const screens = (...list: Partial<Screen>[]): Setup => endpoint({ screens: list.map(screen) });
const h264: Decoder = { codec: 'h264', level: '5.2', chroma444: false };
const trips = (change: object): Setup =>
  evidence((now) => ({ roundTrips: { ...taken({ ...now.roundTrips!.value, ...change }), samples: 120 } }));
const certificate =
  (change: object): Setup =>
  (facts) =>
    gateway({ certificate: { ...facts.gateway.certificate!, ...change } })(facts);
const all =
  (...setups: Setup[]): Setup =>
  (facts) =>
    setups.reduce((now, setup) => setup(now), facts);
const none: Setup = (facts) => facts;
const { regions } = reader.model;

interface Scenario {
  kind: string;
  from: CrossingFacts;
  make: Setup;
  /** What the sentence must say: the figures of the fault itself. */
  says: RegExp;
  /** A remedy whose effect must be computed, and the verdict it leads to. */
  mended?: [text: RegExp, verdict: string];
}
const scenarios: Scenario[] = [
  {
    kind: 'screens exceed the client’s limit',
    from: office,
    make: screens({}, {}, {}),
    says: /1 screen stays dark: a thin-client firmware takes 2 screens/,
    mended: [/Span 2 screens/, 'clear'],
  },
  {
    kind: 'a screen’s mode does not pass its port',
    from: office,
    make: screens({ widthPx: 3840, heightPx: 2160, port: 'hdmi-1.4' }),
    says: /3840 × 2160 at 60 Hz does not pass hdmi-1.4: it falls to 30 Hz/,
  },
  {
    kind: 'screen refresh below the frame cap',
    from: office,
    make: screens({ refreshHz: 24 }),
    says: /up to 30 frames, the screen shows 24/,
  },
  {
    kind: 'session larger or smaller than the screen',
    from: office,
    make: all(setting('picture.resolution', 'fixed'), setting('picture.fixedSize', '1024x768')),
    says: /fixed at 1024 × 768, the screen has 1920 × 1080: a blurred picture/,
    mended: [/native size/, 'clear'],
  },
  {
    kind: 'scale differs between screens',
    from: office,
    make: screens({}, { scale: 1.5 }),
    says: /scales 1 and 1.5/,
    mended: [/same|scale 1/, 'clear'],
  },
  {
    kind: 'a peripheral has no way through',
    from: office,
    make: endpoint({ peripherals: ['card-reader'] }),
    says: /Card reader does not reach the session: the rules/,
    mended: [/Let card reader through/, 'clear'],
  },
  { kind: 'the screens are not known', from: office, make: endpoint({ screens: undefined }), says: /screens are not known/ },
  {
    kind: 'client below the version floor',
    from: dock,
    make: endpoint({ clientVersion: '3.9.2' }),
    says: /Client 3.9.2 is refused: Main gateway asks for 3.10/,
    mended: [/Update the client to 3.10/, 'clear'],
  },
  { kind: 'the client version is not known', from: dock, make: endpoint({ clientVersion: undefined }), says: /Main gateway asks for 3.10/ },
  {
    kind: 'no hardware decode for the stream in use',
    from: office,
    make: all(endpoint({ decoders: [], cores: 2, processor: 'armhf' }), screens({ widthPx: 2560, heightPx: 1440 })),
    says: /decodes H264 on the processor/,
    mended: [/Hold its screens at 1080p/, 'clear'],
  },
  {
    kind: 'decode budget exceeded by several screens',
    from: office,
    make: all(screens({}, {}), endpoint({ decoders: [{ ...h264, level: '4' }] })),
    says: /2 screens ask 490 thousand macroblocks a second of the decoder, it takes 246/,
    mended: [/Use 1 screen/, 'clear'],
  },
  {
    kind: 'drawn by the processor in the browser',
    from: base('OS-007', 'guest-plans'),
    make: evidence(() => ({
      scene: taken({ renderer: 'software', drawnBy: 'processor' as const, frames: 90, averageFps: 9, low1Fps: 4 }),
    })),
    says: /draws on the processor: 9 frames, 4 in its slowest/,
    mended: [/graphics acceleration/, 'clear'],
  },
  {
    kind: 'the decoders are not known',
    from: office,
    make: all(endpoint({ decoders: undefined, cores: 1, processor: 'armhf' }), screens({ widthPx: 3840, heightPx: 2160 })),
    says: /has a decoder is not known/,
  },
  {
    kind: 'memory short for the local work',
    from: home,
    make: all(endpoint({ memoryMB: 1024 }), setting('media.callOffload', true)),
    says: /1024 MB of memory/,
  },
  {
    kind: 'personal device under a managed-only rule',
    from: dock,
    make: all(endpoint({ ownership: 'personal' }), pool({ managedOnly: true })),
    says: /takes managed devices only/,
    mended: [/Let personal devices into/, 'clear'],
  },
  {
    kind: 'Wi-Fi signal too low',
    from: home,
    make: all(endpoint({ connection: 'wifi', wifiSignalDbm: -80 })),
    says: /-80 dBm, which is poor/,
  },
  {
    kind: 'jitter or loss before the line',
    from: home,
    make: all(
      endpoint({ connection: 'wifi' }),
      evidence(() => ({ datagrams: taken({ passes: true, sent: 1000, lost: 60, jitterMs: 12 }) })),
    ),
    says: /loses 6 packets in 100/,
    mended: [/cable/, 'clear'],
  },
  {
    kind: 'share of the line below the picture’s demand',
    from: dock,
    make: evidence(() => ({ downMbps: taken(2) })),
    says: /needs [\d.]+ Mbit\/s, gets/,
    mended: [/Widen the line/, 'clear'],
  },
  {
    kind: 'round trip above the threshold for the work',
    from: dock,
    make: trips({ medianMs: 200, medianLowMs: 198, medianHighMs: 202, p95Ms: 204 }),
    says: /\d+ ms from key to pixel, wanted 150/,
  },
  { kind: 'delay under load', from: home, make: evidence(() => ({ addedUpMs: taken(240) })), says: /until somebody uploads: then \d+ ms/ },
  {
    kind: 'loss limits the rate although the line is wide',
    from: dock,
    make: all(
      setting('transport.prefer', 'tcp'),
      evidence(() => ({ datagrams: taken({ passes: true, sent: 1000, lost: 80 }) })),
      trips({ medianMs: 30, medianLowMs: 29, medianHighMs: 31, p95Ms: 34 }),
    ),
    says: /8 % loss holds TCP to [\d.]+ Mbit\/s/,
    mended: [/Have the line mended/, 'clear'],
  },
  { kind: 'UDP does not pass', from: dock, make: evidence(() => ({ datagrams: taken({ passes: false }) })), says: /UDP does not pass/ },
  {
    kind: 'upload too narrow for the camera',
    from: home,
    make: evidence(() => ({ upMbps: taken(0.5) })),
    says: /wants 1.6 Mbit\/s upwards, there is 0.45/,
  },
  {
    kind: 'video on a metered line',
    from: dock,
    make: all(line({ metered: true }), resource({ content: { video: 0.5, text: 0.5 } })),
    says: /GB a month of a metered line/,
    mended: [/at 20 frames/, 'clear'],
  },
  { kind: 'measured from the wrong place', from: base('OLD-TC-001', 'counter'), make: none, says: /taken on the host and is no evidence/ },
  {
    kind: 'declared figure contradicted by measurement',
    from: dock,
    make: line({ downMbps: 100 }),
    says: /typed as 100 Mbit\/s but measures 920/,
  },
  {
    kind: 'delay below what light allows',
    from: dock,
    make: evidence((now) => ({
      rejected: [
        {
          measurement: { ...measurements[0]!, figures: { roundTrips: now.roundTrips!.value } },
          because: 'below what light allows' as const,
        },
      ],
    })),
    says: /shorter than light needs/,
  },
  {
    kind: 'the line is not known',
    from: home,
    make: all(line({ downMbps: undefined, upMbps: undefined }), (facts) => ({ ...facts, evidence: { rejected: [] } })),
    says: /Not known: .*line rate/,
  },
  {
    kind: 'certificate expired',
    from: dock,
    make: certificate({ notAfter: '2026-11-01' }),
    says: /ended on 2026-11-01/,
    mended: [/Renew/, 'clear'],
  },
  {
    kind: 'certificate not yet valid',
    from: dock,
    make: certificate({ notBefore: '2027-01-01' }),
    says: /only counts from 2027-01-01/,
    mended: [/earlier certificate/, 'clear'],
  },
  {
    kind: 'certificate for another name',
    from: dock,
    make: certificate({ names: ['other.example'] }),
    says: /is for other.example, people connect to access/,
    mended: [/names access/, 'clear'],
  },
  {
    kind: 'certificate not trusted',
    from: dock,
    make: certificate({ trust: 'none' }),
    says: /Nothing on this device trusts/,
    mended: [/publicly trusted/, 'clear'],
  },
  { kind: 'certificate ends soon', from: dock, make: certificate({ notAfter: '2026-12-04' }), says: /ends in 9 days/ },
  {
    kind: 'no common security mode',
    from: base('OS-004', 'guest-plans'),
    make: all(
      setting('security.preSession', true),
      pool({ securityModes: ['tls', 'pre-session'] }),
      gateway({ securityModes: ['tls', 'pre-session'] }),
    ),
    says: /a browser cannot do it: the connection closes at once/,
    mended: [/native client/, 'clear'],
  },
  {
    kind: 'second factor’s time-out shorter than the way',
    from: dock,
    make: all(gateway({ secondFactor: true }), setting('security.secondFactorTimeoutS', 8)),
    says: /breaks off after 8 s, the way and the person need 10/,
  },
  {
    kind: 'gateway where a direct path exists',
    from: base('HO-002', 'documents'),
    make: all(setting('transport.gatewayBypass', false, 'organisation', '*'), (facts) => ({
      ...facts,
      gatewayRegion: regions.get('inland')!,
    })),
    says: /for nothing/,
    mended: [/straight to the host/, 'clear'],
  },
  {
    kind: 'gateway far from both ends',
    from: dock,
    make: (facts) => ({ ...facts, gatewayRegion: regions.get('far')!, gateway: { ...facts.gateway, id: 'GW-FAR', region: 'far' } }),
    says: /lies out of the way/,
  },
  {
    kind: 'gateway lacks a feature in use',
    from: dock,
    make: all(gateway({ codecs: ['progressive', 'h264'] }), setting('picture.codec', 'hevc')),
    says: /does not carry HEVC, so H264 is used/,
  },
  { kind: 'connection with too few colours', from: dock, make: setting('picture.colourDepth', 16), says: /16 bit of colour/ },
  {
    kind: 'no free place on the hosts',
    from: dock,
    make: host({ used: 150, places: 150 }),
    says: /Every place in Document applications is taken: 300 of 300/,
    mended: [/places more/, 'clear'],
  },
  {
    kind: 'the hosts are switched off',
    from: dock,
    make: host({ power: 'off' }),
    says: /is switched on/,
    mended: [/Switch .* on/, 'clear'],
  },
  {
    kind: 'the host is asleep',
    from: dock,
    make: all(host({ power: 'asleep' }), pool({ spareHosts: 0 })),
    says: /25 s more/,
    mended: [/Keep one host/, 'clear'],
  },
  {
    kind: 'graphics of the host not ready',
    from: base('GUL-001', 'hull'),
    make: host({ graphics: { card: true, driver: false, mode: 'display', usedForSessions: true, encoder: true }, drawMs: 200 }),
    says: /without a driver: 3D is drawn on the processor, 4 frames/,
    mended: [/Install the graphics driver/, 'clear'],
  },
  {
    kind: 'the graphics of the host are not known',
    from: base('GUL-001', 'hull'),
    make: host({ graphics: undefined, drawMs: undefined }),
    says: /draws 3D on a card is not known/,
  },
  {
    kind: 'encoder shared by too many',
    from: dock,
    make: host({ encoderMacroblocksPerS: 1_000_000, encoderLoad: 0.9 }),
    says: /12 frames are left/,
  },
  {
    kind: 'frame source slower than the cap',
    from: dock,
    make: host({ drawMs: 90 }),
    says: /draws a frame in 90 ms: 11 frames whatever the line/,
  },
  {
    kind: 'region far although a nearer one has the pool',
    from: dock,
    make: (facts) => ({
      ...facts,
      hosts: [
        { ...facts.hosts[0]!, region: 'far', used: 0, places: 900 },
        { ...facts.hosts[1]!, region: 'estuary' },
      ],
    }),
    says: /nearer/,
  },
  {
    kind: 'call media through the host although the endpoint could',
    from: home,
    make: all(trips({ medianMs: 120, medianLowMs: 119, medianHighMs: 121, p95Ms: 124 }), line({ lineKind: 'leo-satellite' })),
    says: /voice \d\.\d instead of \d\.\d/,
  },
  {
    kind: 'profile large or kept far from the host',
    from: base('SAN-TC-001', 'counter-desktop'),
    make: resource({ profileMB: 300, profileRegion: 'far' }),
    says: /kept in another region/,
    mended: [/beside the hosts/, 'clear'],
  },
  { kind: 'too long until it is usable', from: base('HO-047', 'finance'), make: none, says: /until Finance desktop is usable, wanted 45/ },
  { kind: 'the sign-on times are not known', from: base('HO-047', 'payroll'), make: none, says: /the assumed steps decide/ },
  {
    kind: 'video played inside where the endpoint could',
    from: dock,
    make: resource({ content: { video: 0.3, text: 0.7 } }),
    says: /Video is 30 % of the time/,
    mended: [/Play video on the endpoints/, 'clear'],
  },
  {
    kind: 'full desktop where one app is used',
    from: base('SAN-TC-001', 'counter-desktop'),
    make: resource({ onlyApp: 'Ticket counter' }),
    says: /for Ticket counter alone/,
    mended: [/Publish Ticket counter/, 'clear'],
  },
  { kind: 'not entitled', from: dock, make: (facts) => ({ ...facts, entitled: false }), says: /it is not in the list/ },
  {
    kind: 'publication attached to no portal',
    from: base('HO-081', 'safety'),
    make: none,
    says: /Safety handbook is attached to no portal: .* nothing says so/,
    mended: [/Attach Safety handbook to Main portal/, 'clear'],
  },
  {
    kind: 'two groups give two desktops',
    from: base('HO-047', 'finance'),
    make: (facts) => ({ ...facts, desktops: ['Finance desktop', 'Timetable desktop'] }),
    says: /choose between Finance desktop and Timetable desktop/,
  },
  {
    kind: 'a session is left behind elsewhere',
    from: dock,
    make: all(setting('session.leftBehind', 'most recent'), (facts) => ({
      ...facts,
      elsewhere: [{ ...estate.session[0]!, resourceName: 'Timetable desktop' }],
    })),
    says: /Timetable desktop opens although Workshop orders was wanted/,
  },
  {
    kind: 'a condition for getting in is not met',
    from: base('OS-002', 'guest-plans'),
    make: none,
    says: /a refusal that says nothing. Not met: Invitation accepted$/,
    mended: [/Send the invitation again/, 'clear'],
  },
  { kind: 'a guest’s access ends soon', from: base('OS-003', 'guest-plans'), make: none, says: /ends in 17 days, on 2026-12-11/ },
  {
    kind: 'a guest nobody answers for',
    from: base('OS-004', 'guest-plans'),
    make: (facts) => ({ ...facts, person: { ...facts.person, guest: undefined } }),
    says: /without an owner and an end date/,
  },
  {
    kind: 'default credentials on the gateway',
    from: dock,
    make: gateway({ defaultCredentials: true }),
    says: /maker’s password of Main gateway still works/,
  },
];

describe('every kind of finding', () => {
  test('the crossings that the scenarios begin with are sound', () => {
    for (const facts of [office, home, dock])
      expect([
        facts.endpoint.id,
        computeFigures(facts).verdict,
        evaluateCrossing(facts).findings.filter(({ weight }) => weight !== 'risk'),
      ]).toEqual([facts.endpoint.id, 'clear', []]);
  });

  test('has a scenario that shows it', () => {
    expect(scenarios.map(({ kind }) => kind).sort()).toEqual(findingKinds.map(({ kind }) => kind).sort());
  });

  test.each(scenarios)('$kind', ({ kind, from, make, says, mended }) => {
    const facts = make({ ...from, resolved: undefined });
    const { findings } = evaluateCrossing(facts);
    const found = findings.find((finding) => finding.kind === kind);
    const told = [
      ...findings.map((finding) => `${finding.kind}: ${finding.text}`),
      ...findings.flatMap(({ consequences }) => consequences),
    ];
    if (!found) {
      // told beneath its root cause: the sentence must still be there
      expect(told.join('\n')).toMatch(says);
      return;
    }
    expect(found.text).toMatch(says);
    expect(found.evidence.length).toBeGreaterThan(0);
    expect(found.costText.length).toBeGreaterThan(0);
    if (from !== facts && (from === office || from === home || from === dock))
      expect(evaluateCrossing(from).findings.map((finding) => finding.kind)).not.toContain(kind);
    if (!mended) return;
    const remedy = found.remedies.find(({ text }) => mended[0].test(text));
    expect([kind, found.remedies.map(({ text }) => text), remedy?.effect?.becomes]).toEqual([kind, expect.anything(), mended[1]]);
  });
});
