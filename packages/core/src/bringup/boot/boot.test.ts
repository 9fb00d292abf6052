import { describe, expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { withField } from '../../change/index.js';
import { bootFaults, startOf } from '../../../test/bootFaults.js';
import {
  boot,
  bootCauses,
  bootSteps,
  firmwareDecision,
  mendOf,
  placeOf,
  putBackBy,
  type Boot,
  type BootCause,
  type BootFacts,
} from '../index.js';

const codes = Object.keys(bootCauses) as BootCause[];
const detail = ({ steps }: Boot, name: string) => steps.find((step) => step.name === name)?.detail;
const duration = ({ steps }: Boot, name: string) => steps.find((step) => step.name === name)?.durationMs;

describe('a start without anything in its way', () => {
  const plain = boot(startOf());
  test('takes every step in its order and ends at the sign-in screen', () => {
    expect(plain.broken).toBeNull();
    expect(plain.steps.map(({ name }) => name)).toEqual([...bootSteps]);
    expect(plain.steps.every(({ status }) => status === 'done')).toBe(true);
    // each begins where the one before ended
    let at = 0;
    for (const step of plain.steps) {
      expect(step.atMs).toBe(at);
      at += step.durationMs;
    }
    expect(plain.totalMs).toBe(at);
  });

  test('takes as long as is reckoned by hand', () => {
    // 15 s to start, 2 s for the link, 2 answers of 0.2 s, server: two round trips of (5 + 15) / 2 = 10 ms; one file of 32 bytes over 95 Mbit/s;
    // nothing to write; 0.5 s certificates, 1 s time, 2 s sign-in
    expect(plain.totalMs).toBeCloseTo(15_000 + 2000 + 400 + 20 + 10 + (32 * 8) / 95_000 + 500 + 1000 + 2000, 6);
  });

  test('tells what was sent and received, and where each thing stands', () => {
    expect(plain.messages.map(({ way, text, place }) => `${way} ${text} | ${place ?? ''}`)).toEqual([
      'here the cable has a link | ',
      'sent DHCPDISCOVER, vendor class “saltmarsh-tc” | device class thin-client',
      'received DHCPOFFER of 192.0.2.60 from 192.0.2.2 | scope hall-lan',
      'sent DHCPREQUEST | ',
      'received DHCPACK, lent for 3600 s | scope hall-lan',
      'here reads option 226 as text | device class thin-client',
      // 240 bytes of fields, 53 in 3, 54 in 6, 51 in 6, 3 in 6: option 226 begins at 261
      'here option 226, 24 bytes 68:74:74:70:3a:2f:2f:31:39:32:2e:30:2e:32:2e:31:30:2f:63:6f:6e:66:69:67 at 261 | scope hall-lan',
      'sent asks 192.0.2.10 for its files | ',
      'received 192.0.2.10 answers | settings server bringup',
      'received all, 32 bytes | file all',
      'here has 4.12.1, is offered 4.12.1 for x86-64 | firmware fw-0',
      'here signs in at gate.example | all, line 2',
      'received the sign-in screen of Main gateway | ',
    ]);
    expect(plain.config?.values).toEqual([{ section: 'broker', key: 'address', value: 'gate.example', file: 'all', line: 2 }]);
  });
});

describe('every fault is named, with the step it breaks', () => {
  test('there are forty and more', () => expect(codes.length).toBeGreaterThanOrEqual(40));

  test.each(codes)('%s', (code) => {
    const { hit, miss, step } = bootFaults[code];
    const broken = boot(startOf(hit));
    expect([broken.broken?.code, broken.broken?.step]).toEqual([code, step]);
    expect(bootCauses[code].step).toBe(step);
    const at = bootSteps.indexOf(step);
    expect(broken.steps.map(({ status }) => status)).toEqual(
      bootSteps.map((_, i) => (i < at ? 'done' : i === at ? 'broken' : 'notReached')),
    );
    const { cause, mend, shows, ask } = broken.broken!;
    for (const said of [cause, mend, shows, ask.question, ask.here, ask.there]) {
      expect(said).not.toMatch(/[{}]|undefined|NaN/);
      expect(said.trim()).not.toBe('');
    }
    // the other one it is asked apart from is another, and is one
    expect(ask.alike).not.toBe(code);
    expect(codes).toContain(ask.alike);
    expect(ask.here).not.toBe(ask.there);
    // what is as near as can be starts
    expect(boot(startOf(miss)).broken?.code).not.toBe(code);
    expect(boot(startOf(miss)).broken).toBeNull();
  });

  test('the page of faults is as it is found', () => {
    const rows = codes.map((code) => {
      const { hit, planted } = bootFaults[code];
      const { broken } = boot(startOf(hit));
      const cell = (text: string) => text.replaceAll('|', '\\|');
      return `| ${cell(planted)} | ${broken?.step} | ${cell(broken?.cause ?? '')} | ${cell(broken?.mend ?? '')} | ${broken?.shows} | ${cell(broken?.ask.question ?? '')} ${cell(broken?.ask.here ?? '')}: it is this. ${cell(broken?.ask.there ?? '')}: rather *${broken?.ask.alike}*. |`;
    });
    const text = `# Faults on the way to the sign-in screen\nEach was planted on a small estate, and this is what is told of it (written by the tests: \`WRITE=yes npm test unit\`). The words of the screen are those of the [simulated device](bringup.md).\n\n| planted | stops at | told | mends it | the screen shows | by telephone |\n| --- | --- | --- | --- | --- | --- |\n${rows.join('\n')}\n`;
    const page = new URL('../../../../../docs/bringup-faults.md', import.meta.url);
    if (process.env.WRITE) writeFileSync(page, text);
    expect(readFileSync(page, 'utf8')).toBe(text);
  });
});

describe('an edit that mends', () => {
  /** The facts with an edit made. */
  const mended = (facts: BootFacts): BootFacts | null => {
    const broken = boot(facts).broken!;
    const patches = mendOf(facts, broken);
    if (!patches?.length) return null;
    const edited = <T extends { id: string }>(kind: string, object: T): T =>
      patches.reduce<T>(
        (now, patch) =>
          patch.do === 'change' && patch.kind === kind && patch.id === object.id
            ? Object.entries(patch.set ?? {}).reduce((each, [field, value]) => withField(each, field, value ?? undefined) as T, now)
            : now,
        object,
      );
    return {
      ...facts,
      endpoint: edited('endpoint', facts.endpoint),
      scopes: facts.scopes.map((scope) => edited('scope', scope)),
      servers: facts.servers.map((server) => edited('configServer', server)),
      files: facts.files.map((file) => edited('configFile', file)),
    };
  };
  const without: BootCause[] = [];
  test.each(codes)('%s', (code) => {
    const after = mended(startOf(bootFaults[code].hit));
    if (after === null) return void without.push(code);
    expect([code, boot(after).broken]).toEqual([code, null]);
  });
  test('is there for most of those that an edit can say', () => {
    expect(codes.length - without.length).toBeGreaterThanOrEqual(22);
    // somebody has to write a file, put firmware up, renew a certificate, describe a class or widen a range
    for (const code of [
      'line without equals',
      'firmware for another processor',
      'certificate ended',
      'class not described',
      'addresses used up',
    ] as const)
      expect(without).toContain(code);
  });

  test('of several servers the one that was meant is told, and none is said to answer that was not asked', () => {
    const facts = startOf({ server: { reachable: false } });
    const other = { id: 'other', address: '198.51.100.9', reachable: false };
    const silent = { ...facts, servers: [other, ...facts.servers] };
    expect(mendOf(silent, boot(silent).broken!)).toEqual([{ do: 'change', kind: 'configServer', id: 'bringup', set: { reachable: true } }]);
    const near = startOf(bootFaults['server misspelt'].hit);
    const misspelt = { ...near, servers: [other, ...near.servers] };
    expect(JSON.stringify(mendOf(misspelt, boot(misspelt).broken!))).toContain('http://config.example/');
  });
});

describe('what is told beside', () => {
  const notes = (start: Boot) => start.notes.map(({ code }) => code);
  test('older firmware is written, and told as a downgrade; newer is written, the same is not', () => {
    const at = (firmware: string) => boot(startOf({ endpoint: { firmware } }));
    expect([notes(at('4.12.2')), notes(at('4.12.1')), notes(at('4.9.3'))]).toEqual([['downgrade'], [], []]);
    expect(detail(at('4.12.2'), 'firmware compared')).toBe('downgrade from 4.12.2 to 4.12.1');
    // 100 MB over 95 Mbit/s, written with 10 MB/s, started again in 15 s
    expect(duration(at('4.12.2'), 'write and restart')).toBeCloseTo(((100 * 8) / 95 + 10 + 15) * 1000, 6);
    expect([duration(at('4.12.1'), 'write and restart'), detail(at('4.12.1'), 'write and restart')]).toEqual([0, 'nothing to write']);
  });

  test('where the firmware is the client, the version that was just written asks at the gateway', () => {
    const floor = { gateway: { clientFloors: { 'thin-client firmware': '4.12', 'native client': '4.12' } } };
    const start = (endpoint: object) => boot(startOf({ ...floor, endpoint })).broken?.code ?? null;
    expect(start({ firmware: '4.9', clientVersion: '4.9' })).toBeNull();
    expect(start({ firmware: '4.12.1', clientVersion: '4.9' })).toBe('client too old');
    expect(start({ firmware: '4.9', clientVersion: '4.9', clientKind: 'native client' })).toBe('client too old');
    expect(boot(startOf({ ...floor, endpoint: { firmware: '4.12.1' }, firmware: [{ version: '4.11' }] })).broken?.code).toBe(
      'client too old',
    );
  });

  test('two servers that do not say the same, a short lease, a name that nobody looks up', () => {
    const two = boot(startOf({ scopes: [{}, { server: '192.0.2.3', options: [] }] }));
    expect([two.broken, notes(two)]).toEqual([null, ['two servers']]);
    expect(two.notes[0]?.text).toContain('do not say the same in option 226');
    expect(boot(startOf({ scopes: [{}, { server: '192.0.2.3' }] })).notes[0]?.text).not.toContain('do not say the same');
    expect([299, 300].map((leaseS) => notes(boot(startOf({ scopes: [{ leaseS }] }))))).toEqual([['short lease'], []]);
    const named = (more: object) =>
      boot(
        startOf({ options: { 226: { type: 'text', value: 'http://config.example/' }, ...more }, server: { address: 'config.example' } }),
      );
    expect([notes(named({})), notes(named({ 6: { type: 'address', value: '192.0.2.6' } }))]).toEqual([['no name server'], []]);
  });

  test('one that has started before keeps its last good file, and a sealed key is not held against one that is not', () => {
    const before = boot(startOf({ own: 'nothing\n', endpoint: { reportedAt: '2026-11-20T05:30:00Z' } }));
    expect([before.broken?.code, notes(before)]).toEqual(['line without equals', ['keeps last good file']]);
    const join = (has: string, wanted: string) =>
      boot(
        startOf({
          endpoint: { connection: 'wifi', wifi: { name: 'n', key: has } },
          location: { wifi: { name: 'n', key: wanted } },
        }),
      );
    expect([
      notes(join('sealed:abc', 'plain text')),
      join('sealed:abc', 'sealed:abc').broken,
      join('sealed:abc', 'sealed:ABC').broken?.code,
    ]).toEqual([['cannot compare'], null, 'wifi key wrong']);
  });

  test('an option of the class’s own scope counts before one of the scope for all', () => {
    const other = { id: 'for-tc', vendorClass: 'saltmarsh-tc', options: [{ code: 226, type: 'text', value: 'http://192.0.2.10/own' }] };
    expect(
      detail(boot(startOf({ scopes: [{}, other], options: { 226: { type: 'address', value: '192.0.2.99' } } })), 'options found'),
    ).toBe('option 226 of scope for-tc: http://192.0.2.10/own');
  });

  test('the clock: the time it shows, what it is off, or only that it is wrong', () => {
    const clock = (text: string) => boot(startOf({ endpoint: { clock: text } })).broken?.cause ?? null;
    expect(clock('2026-11-25T11:00:00Z')).toBeNull();
    expect(clock('2026-11-25T11:00:01Z')).toContain('1.0 hours ahead');
    expect(clock('2019-01-01T00:00:00Z')).toContain('2885 days behind');
    expect(clock('2019-01-01')).toContain('days behind');
    expect(['right', 'ok', 'yes'].map(clock)).toEqual([null, null, null]);
    expect(['wrong', 'no'].map((text) => clock(text) === null)).toEqual([false, false]);
  });
});

describe('the pieces', () => {
  test.each([
    ['192.0.2.10', { scheme: 'http', host: '192.0.2.10', port: null }],
    ['http://192.0.2.10:8080/a/b', { scheme: 'http', host: '192.0.2.10', port: 8080 }],
    ['HTTPS://Config.Example', { scheme: 'https', host: 'config.example', port: null }],
    ['192.0.2.256', null],
    ['192.0.2', null],
    ['config.example:0', null],
    ['config.example:65536', null],
    ['a b', null],
    ['', null],
  ])('the place %j', (text, place) => expect(placeOf(text)).toEqual(place));

  test('a file puts back those for whom it is what is offered, and that have something newer', () => {
    const file = (id: string, version: string) => ({
      id,
      deviceClass: 'thin-client' as const,
      version,
      processor: 'x86-64' as const,
      sizeMB: 1,
    });
    const device = (id: string, more: object) =>
      ({ id, deviceClass: 'thin-client', processor: 'x86-64', firmware: '4.12', ...more }) as never;
    const devices = [
      device('same', {}),
      device('older', { firmware: '4.9' }),
      device('newer', { firmware: '4.13' }),
      device('unknown', { firmware: undefined }),
      device('arm', { firmware: '5', processor: 'arm64' }),
      device('kiosk', { firmware: '5', deviceClass: 'kiosk' }),
    ];
    expect(putBackBy(file('a', '4.12'), [], devices)).toEqual(['newer']);
    // a higher one is offered instead
    expect(putBackBy(file('a', '4.12'), [file('b', '4.14')], devices)).toEqual([]);
    // its own earlier entry does not count
    expect(putBackBy(file('a', '4.10'), [file('a', '4.14')], devices)).toEqual(['same', 'newer']);
  });

  test('what is done with firmware: the highest for the processor is offered, never compared as text', () => {
    const file = (version: string, processor: 'x86-64' | 'arm64' = 'x86-64') => ({
      id: version,
      deviceClass: 'thin-client' as const,
      version,
      processor,
      sizeMB: 1,
    });
    const does = (firmware: string | undefined, ...files: ReturnType<typeof file>[]) => {
      const { does, offered } = firmwareDecision({ firmware, processor: 'x86-64' } as never, files);
      return `${does} ${offered?.version ?? ''}`;
    };
    expect([
      does('3.9', file('3.9'), file('3.10')),
      does('3.10', file('3.9')),
      does('3.4_118', file('3.4_95')),
      does('3.10', file('3.10.0')),
      does('3.10', file('4', 'arm64')),
      does(undefined, file('4')),
      does('3.10'),
    ]).toEqual(['up 3.10', 'down 3.9', 'down 3.4_95', 'nothing 3.10.0', 'refuse 4', 'not known 4', 'nothing ']);
  });
});
