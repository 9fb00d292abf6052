import { describe, expect, test } from '@jest/globals';
import type { Change } from '@underpass/contracts';
import { readFileSync, writeFileSync } from 'node:fs';
import { demoEstate, demoInstant } from '../../../test/demo.js';
import { lintCases, type LintCase } from '../../../test/lintCases.js';
import { all, dock, endpoint, gateway, h264, home, host, line, none, office, person, screens, setting } from '../../../test/scenes.js';
import { isEmpty } from '../../change/index.js';
import { modelOf } from '../../estate/index.js';
import { FactsReader, lintCrossing, lintRules, settingsOf, type CrossingFacts } from '../index.js';

const full = { codec: 'h264', level: '5.2', chroma444: true } as const;
const few = { graphics: { card: true, driver: true, mode: 'display', usedForSessions: true, encoder: false } } as const;
const cases: Record<string, LintCase> = {
  ...lintCases,
  'full colours without a decoder for them': {
    from: office,
    hit: setting('picture.chroma', '4:4:4'),
    miss: all(setting('picture.chroma', '4:4:4'), endpoint({ decoders: [full] })),
    says: /no decoder of SAN-TC-001 takes h264 in it/,
  },
  'a codec without a decoder for it': {
    from: office,
    hit: all(setting('picture.codec', 'av1'), gateway({ codecs: ['h264', 'av1'] })),
    miss: all(setting('picture.codec', 'hevc'), gateway({ codecs: ['h264', 'hevc'] })),
    says: /av1 is set, and no decoder/,
  },
  'a codec that the gateway does not pass': {
    from: office,
    hit: all(setting('picture.codec', 'hevc'), gateway({ codecs: ['h264'] })),
    miss: all(setting('picture.codec', 'hevc'), gateway({ codecs: ['h264', 'hevc'] })),
    says: /hevc is asked for, and Main gateway passes h264/,
  },
  'more frames than the screens show': {
    from: office,
    hit: setting('picture.frameCap', 61),
    miss: setting('picture.frameCap', 60),
    says: /Up to 61 frames a second are sent, and the screens show 60/,
  },
  'fewer frames than the work wants': {
    from: office,
    hit: setting('picture.frameCap', 19),
    miss: setting('picture.frameCap', 20),
    says: /At most 19 frames a second are sent, and the work in Ticket counter wants 20/,
  },
  'few colours, and exact': {
    from: office,
    hit: all(setting('picture.colourDepth', 16), setting('picture.qualityFloor', 1)),
    miss: all(setting('picture.colourDepth', 16), setting('picture.qualityFloor', 0.99)),
    says: /16 bit, and the picture is to be exact/,
  },
  'few colours with a codec that has them all': {
    from: office,
    hit: setting('picture.colourDepth', 16),
    miss: all(setting('picture.colourDepth', 16), setting('picture.codec', 'bitmap')),
    says: /16 bit, and h264 is coded with all of them/,
  },
  'a fixed size larger than the screen': {
    from: office,
    hit: all(setting('picture.resolution', 'fixed'), setting('picture.fixedSize', '2560x1440')),
    miss: all(setting('picture.resolution', 'fixed'), setting('picture.fixedSize', '1920x1080')),
    says: /fixed at 2560 × 1440, and a screen has 1920 × 1080/,
  },
  'a fixed size that is not used': {
    from: office,
    hit: setting('picture.fixedSize', '1280x1024'),
    miss: all(setting('picture.fixedSize', '1280x1024'), setting('picture.resolution', 'fixed')),
    says: /fixed size of 1280x1024 is set, and the resolution is “native”/,
  },
  'screens held at a height that none has': {
    from: office,
    hit: setting('picture.heldHeight', 1080),
    miss: all(setting('picture.heldHeight', 1080), screens({ heightPx: 1081 })),
    says: /held at 1080 lines, and the tallest has 1080/,
  },
  'more screens than the client takes': {
    from: office,
    hit: setting('screens.most', 3),
    miss: setting('screens.most', 2),
    says: /Up to 3 screens are meant, and a thin-client firmware takes 2/,
  },
  'several screens where one is used': {
    from: office,
    hit: all(setting('screens.most', 2), setting('screens.use', 'one')),
    miss: all(setting('screens.most', 1), setting('screens.use', 'one')),
    says: /Up to 2 screens are meant, and the session uses one/,
  },
  'a cap below what the picture asks': {
    from: office,
    hit: setting('transport.capMbps', 0.5),
    miss: setting('transport.capMbps', 2),
    says: /A session may take 0\.5 Mbit\/s, and its picture asks/,
  },
  'the finest picture on a line that is paid by volume': {
    from: office,
    hit: all(line({ metered: true }), setting('picture.qualityFloor', 1)),
    miss: all(line({ metered: true }), setting('picture.qualityFloor', 0.95)),
    says: /is to be exact, and the line at .* is paid by volume/,
  },
  'a setting that the client ignores': {
    from: office,
    hit: all(endpoint({ clientKind: 'browser' }), setting('media.videoOffload', true)),
    miss: all(endpoint({ clientKind: 'browser' }), setting('media.videoOffload', false)),
    says: /“Video” is set, and a browser does not follow it/,
  },
  'two takers of one camera': {
    from: home,
    hit: all(setting('media.callOffload', true), setting('redirection.devices', ['camera'])),
    miss: all(setting('media.callOffload', true), setting('redirection.devices', ['-camera'])),
    says: /its camera is let through to the host as well/,
  },
  'video played where nothing decodes it': {
    from: office,
    hit: all(setting('media.videoOffload', true), endpoint({ decoders: [] })),
    miss: all(setting('media.videoOffload', true), endpoint({ decoders: [h264] })),
    says: /Video is played on SAN-TC-001, which has no hardware decoder/,
  },
  'a camera picture that the line does not carry': {
    from: home,
    hit: all(setting('media.cameraHeight', 720), line({ upMbps: 1.49 })),
    miss: all(setting('media.cameraHeight', 720), line({ upMbps: 1.5 })),
    says: /A camera picture of 720 lines asks 1\.5 Mbit\/s, and the line sends 1\.5 Mbit\/s/,
  },
  'encoding on a card that no host has': {
    from: office,
    hit: all(setting('picture.hardwareEncode', true), host(few as never)),
    miss: all(setting('picture.hardwareEncode', true), host({ graphics: { ...few.graphics, encoder: true } } as never)),
    says: /no host of .* has an encoder/,
  },
  'decoders that are not used': {
    from: office,
    hit: setting('picture.hardwareDecode', false),
    miss: all(setting('picture.hardwareDecode', false), endpoint({ decoders: [] })),
    says: /has a decoder for h264, and is told not to use it/,
  },
  'a sign-in before the session that the client cannot do': {
    from: office,
    hit: all(setting('security.preSession', true), endpoint({ clientKind: 'browser' })),
    miss: setting('security.preSession', true),
    says: /a browser cannot do it/,
  },
  'storage let through for guests': {
    from: office,
    hit: all(person({ kind: 'guest' }), setting('redirection.devices', ['storage'])),
    miss: all(person({ kind: 'seasonal' }), setting('redirection.devices', ['storage'])),
    says: /is a guest, and storage sticks are let through/,
  },
  'an untrusted certificate is only warned of, on a device of somebody’s own': {
    from: office,
    hit: all(setting('security.certificateTrust', 'warn'), endpoint({ ownership: 'personal' })),
    miss: setting('security.certificateTrust', 'warn'),
    says: /the device is nobody’s of ours/,
  },
  'single sign-on without the card reader': {
    from: office,
    hit: all(setting('session.singleSignOn', true), endpoint({ peripherals: ['card-reader'] })),
    miss: all(
      setting('session.singleSignOn', true),
      endpoint({ peripherals: ['card-reader'] }),
      setting('redirection.devices', ['card-reader']),
    ),
    says: /the card reader is not let through/,
  },
  'a TLS version that the gateway does not speak': {
    from: office,
    hit: all(setting('security.tlsMinimum', '1.3', 'organisation', '*'), gateway({ tlsHighest: '1.2' })),
    miss: all(setting('security.tlsMinimum', '1.3', 'organisation', '*'), gateway({ tlsHighest: '1.3' })),
    says: /TLS 1\.3 is the least, and Main gateway speaks 1\.2 at most/,
  },
  'a version asked for that the client does not have': {
    from: office,
    hit: setting('client.versionFloor', '4.12.2'),
    miss: setting('client.versionFloor', '4.12.1'),
    says: /Clients below 4\.12\.2 are refused, and SAN-TC-001 has 4\.12\.1/,
  },
  'a second factor that is over before it is answered': {
    from: office,
    hit: all(gateway({ secondFactor: true }), setting('security.secondFactorTimeoutS', 19)),
    miss: all(gateway({ secondFactor: true }), setting('security.secondFactorTimeoutS', 20)),
    says: /waits 19 s, and people need about 20 s/,
  },
  'personal devices are refused, and this is one': {
    from: office,
    hit: all(setting('security.personalDevices', 'refused'), endpoint({ ownership: 'personal' })),
    miss: setting('security.personalDevices', 'refused'),
    says: /Personal devices are refused, and SAN-TC-001 is the one that/,
  },
  'storage let through to a personal device that is limited': {
    from: office,
    hit: all(
      setting('security.personalDevices', 'limited'),
      endpoint({ ownership: 'personal' }),
      setting('redirection.devices', ['storage']),
    ),
    miss: all(setting('security.personalDevices', 'limited'), setting('redirection.devices', ['storage'])),
    says: /Storage is let through, and personal devices are limited/,
  },
  'UDP where the gateway has none': {
    from: office,
    hit: all(setting('transport.prefer', 'udp'), gateway({ udp: false })),
    miss: all(setting('transport.prefer', 'udp'), gateway({ udp: true })),
    says: /UDP is preferred, and Main gateway takes TCP alone/,
  },
  'repair ahead over TCP': {
    from: office,
    hit: all(setting('transport.repair', 'forward'), setting('transport.prefer', 'tcp')),
    miss: all(setting('transport.repair', 'resend'), setting('transport.prefer', 'tcp')),
    says: /data sent ahead, and the session goes over TCP/,
  },
  'a share of repair data that nothing uses': {
    from: office,
    hit: setting('transport.repairShare', 30),
    miss: all(setting('transport.repairShare', 30), setting('transport.repair', 'forward')),
    says: /30 % of repair data are meant, and loss is mended by “resend”/,
  },
};

const hitOf = (rule: string, facts: CrossingFacts) => lintCrossing(facts).find((each) => each.rule === rule);

describe('checks between settings', () => {
  test('are at least 25, each with a name of its own and a case of both', () => {
    expect(lintRules.length).toBeGreaterThanOrEqual(25);
    expect(Object.keys(cases).sort()).toEqual(lintRules.map(({ rule }) => rule).sort());
  });

  test.each(Object.entries(cases))('%s', (rule, { from, hit, miss, says }) => {
    expect(hitOf(rule, from)).toBeUndefined();
    const found = hitOf(rule, hit(from));
    expect(found?.cause).toMatch(says);
    expect(found?.consequence).not.toBe('');
    expect(found?.remedy.text).not.toBe('');
    expect(hitOf(rule, miss(from))).toBeUndefined();
  });

  // what mends it really does: pressed, the rule is silent
  test.each(Object.entries(cases))('what mends “%s” mends it', (rule, { from, hit }) => {
    const facts = hit(from);
    const { change } = hitOf(rule, facts)!.remedy;
    if (change.patches.length === 0) return;
    const after = facts.reader.after(change).read(facts.ref)!;
    expect(settingsOf(after)).not.toEqual(settingsOf(facts));
    expect(hitOf(rule, after)).toBeUndefined();
  });

  test('what nobody set is nobody’s fault: an estate without settings has none but of what is not there', () => {
    const { estate, measurements } = demoEstate();
    const bare = new FactsReader(modelOf({ ...estate, setting: [] }, measurements), demoInstant);
    const found = new Set(bare.model.crossings.flatMap((ref) => lintCrossing(bare.read(ref)!).map((each) => each.rule)));
    // but for what nothing was said of where many sit at one device, or strangers before it
    expect([...found].sort()).toEqual([
      'a kiosk that people can leave',
      'a shared device that remembers the last person',
      'idle sessions that nothing keeps safe',
      'the clipboard lets data out with guests',
    ]);
  });

  test('nothing to tell of a sound crossing', () => {
    for (const facts of [office, home, dock]) expect(lintCrossing(none(facts))).toEqual([]);
  });
});

/** What a remedy writes, in a few words. */
const writes = ({ patches }: Change): string =>
  patches
    .map((patch) =>
      patch.do === 'setting'
        ? `${patch.key} = ${String(patch.value)} (${patch.layer})`
        : patch.do === 'change'
          ? `${patch.kind}: ${Object.keys(patch.set ?? {}).join(', ')}`
          : patch.do,
    )
    .join('; ');

test('the page of checks in docs has every one, on a crossing that it hits', () => {
  const rows = lintRules.map(({ rule, about }) => {
    const { from, hit } = cases[rule]!;
    const found = lintCrossing(hit(from)).find((each) => each.rule === rule)!;
    const { text, change, ask } = found.remedy;
    const told = [text, isEmpty(change) ? '' : `\`${writes(change)}\``, ask ?? ''].filter(Boolean).join('<br>');
    return `| ${rule} | ${about.map((key) => `\`${key}\``).join('<br>')} | ${found.cause}. ${found.consequence} | ${told} |`;
  });
  const text = `# Checks between settings
Every check with the settings it is about, what it tells on a crossing that it hits, and what mends it (written by the tests: \`WRITE=yes npm test unit\`).

| check | about | told | remedy, and what it writes |
| --- | --- | --- | --- |
${rows.join('\n')}
`;
  const page = new URL('../../../../../docs/setting-checks.md', import.meta.url);
  if (process.env.WRITE) writeFileSync(page, text);
  expect(readFileSync(page, 'utf8')).toBe(text);
});
