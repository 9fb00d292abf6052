import { describe, expect, test } from '@jest/globals';
import { Setting } from '@underpass/contracts';
import fc from 'fast-check';
import { demoEstate } from '../../test/demo.js';
import { filesOfSettings, joiningSteps, mergeConfig, spelled, readLine, versionOrder, wifiCode, type WifiJoin } from './index.js';

describe('versions', () => {
  const order = (a: string, b: string) => {
    const result = versionOrder(a, b);
    return result.ok ? result.value : null;
  };

  test.each([
    ['3.4_118', '3.4_95', 1],
    ['3.10', '3.9', 1],
    ['3.4', '3.4a', -1],
    ['3.4a', '3.4b', -1],
    ['3.4b', '3.4.1', -1],
    ['3.4', '3.4.0', 0],
    ['3.04', '3.4', 0],
    ['3_4', '3.4', 0],
    ['3.4A', '3.4a', 0],
    ['3.4.0a', '3.4a', -1],
    [' 3.4', '3.4 ', 0],
    ['20260101000000000001', '20260101000000000002', -1],
    ['00000000000000000007', '7', 0],
    ['20260101000000000001', '7', 1],
  ])('%s against %s', (a, b, expected) => {
    expect([order(a, b), order(b, a)]).toEqual([expected, expected === 0 ? 0 : -expected]);
  });

  test.each(['', 'x', '3.', '.3', '3..4', '3.4ab', '3.a4', '3-4', '3.4 b', 'v3', '3.4a.1', '1'.repeat(300)])('%j is no version', (text) => {
    expect(versionOrder(text, '1')).toMatchObject({ ok: false, fault: { problem: 'is no version' } });
    expect(versionOrder('1', text)).toMatchObject({ ok: false });
  });

  test('stand in one row: whatever three, their order does not go in a circle', () => {
    const version = fc
      .tuple(fc.array(fc.nat(12), { minLength: 1, maxLength: 3 }), fc.constantFrom('', '', 'a', 'b'))
      .map(([fields, letter]) => `${fields.join('.')}${letter}`);
    fc.assert(
      fc.property(version, version, version, (a, b, c) => {
        expect(order(a, a)).toBe(0);
        if (order(a, b)! <= 0 && order(b, c)! <= 0) expect(order(a, c)!).toBeLessThanOrEqual(0);
      }),
    );
  });
});

describe('the code to join a network', () => {
  const plain: WifiJoin = { name: 'Quayside', type: 'WPA', key: 'tide table', hidden: false };
  const code = (more: Partial<WifiJoin>) => {
    const result = wifiCode({ ...plain, ...more });
    return result.ok ? result.value : `${result.fault.place} ${result.fault.problem}`;
  };

  test.each<[Partial<WifiJoin>, string]>([
    [{}, 'WIFI:T:WPA;S:Quayside;P:tide table;;'],
    [{ hidden: true }, 'WIFI:T:WPA;S:Quayside;P:tide table;H:true;;'],
    [{ type: 'SAE' }, 'WIFI:T:SAE;S:Quayside;P:tide table;;'],
    [{ type: 'nopass', key: '' }, 'WIFI:T:nopass;S:Quayside;;'],
    [{ type: 'WEP', key: 'abcde' }, 'WIFI:T:WEP;S:Quayside;P:abcde;;'],
    [{ name: 'a;b,c:d"e\\f' }, 'WIFI:T:WPA;S:a\\;b\\,c\\:d\\"e\\\\f;P:tide table;;'],
    [{ key: 'k;e,y:"\\1234' }, 'WIFI:T:WPA;S:Quayside;P:k\\;e\\,y\\:\\"\\\\1234;;'],
    // limits, just within and just without
    [{ key: '1234567' }, 'the key has 7 characters'],
    [{ key: '12345678' }, 'WIFI:T:WPA;S:Quayside;P:12345678;;'],
    [{ key: 'k'.repeat(63) }, `WIFI:T:WPA;S:Quayside;P:${'k'.repeat(63)};;`],
    [{ key: 'k'.repeat(64) }, 'the key has 64 characters'],
    [{ type: 'SAE', key: '1234567' }, 'the key has 7 characters'],
    [{ name: 'n'.repeat(32) }, `WIFI:T:WPA;S:${'n'.repeat(32)};P:tide table;;`],
    [{ name: 'n'.repeat(33) }, 'the name has 33 bytes'],
    [{ name: 'ü'.repeat(16) }, `WIFI:T:WPA;S:${'ü'.repeat(16)};P:tide table;;`],
    [{ name: 'ü'.repeat(17) }, 'the name has 34 bytes'],
    [{ name: '' }, 'the name has 0 bytes'],
    [{ name: 'a\nb' }, 'the name has letters that cannot be typed'],
    [{ key: '1234567\u007f' }, 'the key has letters that cannot be typed'],
    [{ type: 'nopass' }, 'the key is given for a network that asks for none'],
    [{ type: 'WEP', key: '' }, 'the key is missing'],
  ])('%j', (more, expected) => {
    expect(code(more)).toBe(expected);
  });

  test('read again by its own rules it says what went in', () => {
    const fieldsOf = (payload: string) =>
      Object.fromEntries(
        [...payload.slice('WIFI:'.length).matchAll(/([TSPH]):((?:\\.|[^\\;])*);/g)].map(([, key, value]) => [
          key,
          value!.replace(/\\(.)/g, '$1'),
        ]),
      );
    const word = (min: number, max: number) =>
      fc.array(fc.constantFrom(...'abcXYZ019 ;,:"\\äß'), { minLength: min, maxLength: max }).map((letters) => letters.join(''));
    fc.assert(
      fc.property(word(1, 16), word(8, 63), fc.boolean(), (name, key, hidden) => {
        expect(fieldsOf(code({ name, key, hidden }))).toEqual({ T: 'WPA', S: name, P: key, ...(hidden ? { H: 'true' } : {}) });
      }),
    );
  });
});

describe('a line of a configuration file', () => {
  const value = (key: string, of: string, problem: string | null = null, locked = false) => ({
    is: 'value',
    key,
    locked,
    value: of,
    problem,
  });
  test.each<[string, object]>([
    ['', { is: 'empty' }],
    [' \t', { is: 'empty' }],
    ['; a = 1', { is: 'comment', switchedOff: null }],
    ['  # note', { is: 'comment', switchedOff: null }],
    [';[picture]', { is: 'comment', switchedOff: 'picture' }],
    ['# [ picture ] ; old', { is: 'comment', switchedOff: 'picture' }],
    ['# see [picture]', { is: 'comment', switchedOff: null }],
    ['[picture]', { is: 'section', name: 'picture', problem: null }],
    [' [ picture ] # now', { is: 'section', name: 'picture', problem: null }],
    ['[picture] x', { is: 'section', name: 'picture', problem: 'has “x” behind “]”, which counts for nothing' }],
    ['[picture', { is: 'wrong', because: 'no bracket', problem: 'begins a section without “]”: “[picture”' }],
    ['word', { is: 'wrong', because: 'no equals', problem: 'has no “=”: “word”' }],
    ['word ; a = 1', { is: 'wrong', because: 'no equals', problem: 'has no “=”: “word”' }],
    ['= 1', { is: 'wrong', because: 'no key', problem: 'has no key before “=”' }],
    ['! = 1', { is: 'wrong', because: 'no key', problem: 'has no key before “=”' }],
    ['a=1', value('a', '1')],
    [' a = 1 2 ', value('a', '1 2')],
    ['a =', value('a', '')],
    ['a = ; none', value('a', '')],
    ['a=;1', value('a', ';1')],
    ['a = 1;2', value('a', '1;2')],
    ['a = 1 ;2', value('a', '1')],
    ['a = 1\t#2', value('a', '1')],
    ['a = b = c', value('a', 'b = c')],
    ['a! = 1', value('a', '1', null, true)],
    ['a ! = 1', value('a', '1', null, true)],
    ['a = path\\', value('a', 'path\\')],
    ['a = "1 ; 2"', value('a', '1 ; 2')],
    ['a = "1" ; 2', value('a', '1')],
    ['a = "say \\"hi\\" \\\\ \\n"', value('a', 'say "hi" \\ \\n')],
    ['a = " 1 "', value('a', ' 1 ')],
    ['a = ""', value('a', '')],
    ['a = "1', value('a', '"1', 'opens a quote and does not close it')],
    ['a = "1 ; 2', value('a', '"1 ; 2', 'opens a quote and does not close it')],
    ['a = "1" 2', value('a', '"1" 2', 'has “2” behind the closing quote')],
    ['a = "1";2', value('a', '"1";2', 'has “;2” behind the closing quote')],
    ['a = 1"2', value('a', '1"2')],
  ])('%j', (line, expected) => {
    expect(readLine(line)).toEqual(expected);
  });
});

describe('configuration files together', () => {
  const merged = (...texts: string[]) => mergeConfig(texts.map((text, i) => ({ name: `${'abc'[i]}.ini`, text })));
  const values = (...texts: string[]) =>
    merged(...texts).values.map(({ section, key, value, file, line }) => `${section}.${key} = ${value} (${file} ${line})`);
  const problems = (...texts: string[]) => merged(...texts).problems.map(({ file, line, text }) => `${file} ${line}: ${text}`);

  test('the later value counts, each with the file and line it came from', () => {
    const texts = [
      '[picture]\nframeCap = 30\ncodec = h264\n',
      '\uFEFF[picture]\r\nframeCap = 20\r\n[broker]\r\naddress = broker.example\r\n',
    ];
    expect(values(...texts)).toEqual([
      'picture.frameCap = 20 (b.ini 2)',
      'picture.codec = h264 (a.ini 3)',
      'broker.address = broker.example (b.ini 4)',
    ]);
    expect(problems(...texts)).toEqual([]);
  });

  test('a locked key stays, and the line that is left out is told at its own place', () => {
    const texts = ['[picture]\nframeCap! = 30\n', '[picture]\nframeCap = 20\n', '[picture]\nframeCap! = 10\n'];
    expect(values(...texts)).toEqual(['picture.frameCap = 30 (a.ini 2)']);
    expect(problems(...texts)).toEqual([
      'b.ini 2: “frameCap” is locked by a.ini, line 2; this line is left out',
      'c.ini 2: “frameCap” is locked by a.ini, line 2; this line is left out',
    ]);
    // within the file that locks it the later line counts, as anywhere
    expect(values('[picture]\nframeCap! = 30\nframeCap = 15\n', '[picture]\nframeCap = 20\n')).toEqual(['picture.frameCap = 15 (a.ini 3)']);
    // a lock in a later file holds from there on
    expect(values('[picture]\nframeCap = 30\n', '[picture]\nframeCap! = 20\n', '[picture]\nframeCap = 10\n')).toEqual([
      'picture.frameCap = 20 (b.ini 2)',
    ]);
  });

  test('what is wrong is told and kept, but for lines that say nothing', () => {
    const text =
      'lost = 1\n[picture]\nframeCap = 30\nframeCap = 24\nunheard = 1\n;[voice]\nnothing\n= 3\n[elsewhere]\na = "open\n[broken\nb = 2\n';
    expect(values(text)).toEqual([
      '.lost = 1 (a.ini 1)',
      'picture.frameCap = 24 (a.ini 4)',
      'picture.unheard = 1 (a.ini 5)',
      'elsewhere.a = "open (a.ini 10)',
      'elsewhere.b = 2 (a.ini 12)',
    ]);
    expect(problems(text)).toEqual([
      'a.ini 1: “lost” stands before any section',
      'a.ini 4: “frameCap” stands twice, in line 3 too; this line counts',
      'a.ini 5: no key of [picture] is called “unheard”',
      'a.ini 6: this section is switched off: [voice]',
      'a.ini 7: has no “=”: “nothing”',
      'a.ini 8: has no key before “=”',
      'a.ini 9: no section is called [elsewhere]',
      'a.ini 10: opens a quote and does not close it',
      'a.ini 11: begins a section without “]”: “[broken”',
    ]);
  });

  test('are read whatever they hold, and every place that is told is in them', () => {
    const piece = fc.constantFrom(
      '[picture]',
      '[',
      ']',
      '=',
      'frameCap',
      '!',
      '"',
      '\\',
      ';',
      '#',
      ' ',
      '\t',
      'a',
      '\n',
      '\r\n',
      '\u0000',
      '\uFEFF',
      '=1\n',
    );
    const text = fc.array(piece, { maxLength: 60 }).map((pieces) => pieces.join(''));
    fc.assert(
      fc.property(fc.array(text, { maxLength: 3 }), (texts) => {
        const result = merged(...texts);
        for (const { file, line } of [...result.values, ...result.problems]) {
          const of = texts['abc'.indexOf(file[0]!)]!;
          expect(line).toBeGreaterThanOrEqual(1);
          expect(line).toBeLessThanOrEqual(of.split(/\r\n|\n|\r/).length);
        }
      }),
    );
  });
});

describe('files that are made of settings', () => {
  const setting = (key: string, value: unknown, more: object = {}) =>
    Setting.parse({
      id: `${key}-${Object.values(more).join('-') || 'all'}`.replace(/[^\w.-]/g, '-'),
      key,
      layer: 'organisation',
      target: '*',
      value,
      ...more,
    });

  test('one for each place, in order, locked ones locked, conditional ones a comment, those of people none', () => {
    const files = filesOfSettings(
      [
        setting('picture.frameCap', 30, { locked: true }),
        setting('redirection.devices', ['headset', 'camera'], { layer: 'location', target: 'dock' }),
        setting('session.singleSignOn', true, { layer: 'device class', target: 'thin-client' }),
        setting('picture.frameCap', 20, { layer: 'endpoint', target: 'TC-1' }),
        setting('picture.frameCap', 10, { layer: 'person', target: 'P1' }),
        setting('picture.codec', 'hevc', { condition: { metered: true } }),
      ],
      'gate.example',
    );
    expect(files).toEqual([
      { id: 'set-class-thin-client', layer: 'device class', target: 'thin-client', text: '[session]\nsingleSignOn = yes\n' },
      { id: 'set-endpoint-TC-1', layer: 'endpoint', target: 'TC-1', text: '[picture]\nframeCap = 20\n' },
      { id: 'set-location-dock', layer: 'location', target: 'dock', text: '[redirection]\ndevices = headset, camera\n' },
      {
        id: 'set-organisation',
        layer: 'organisation',
        target: '*',
        text: '[broker]\naddress = gate.example\n\n[picture]\n; codec: depends on who signs in (Codec)\nframeCap! = 30\n',
      },
    ]);
    // and are read again as what they were: the lock of the organisation holds
    const { values, problems } = mergeConfig([files[3]!, files[1]!].map(({ id, text }) => ({ name: id, text })));
    expect(values.map(({ section, key, value }) => `${section}.${key}=${value}`)).toEqual([
      'broker.address=gate.example',
      'picture.frameCap=30',
    ]);
    expect(problems).toHaveLength(1);
  });

  test('whatever stands in a text comes back as it was', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[\x20-\x7e]{1,30}$/), (value) => {
        const [file] = filesOfSettings([setting('client.versionFloor', value)], null);
        const { values, unread } = mergeConfig([{ name: 'f', text: file!.text }]);
        expect([unread, values[0]?.value]).toEqual([[], value]);
      }),
    );
  });

  test('the same settings in any order come to the same bytes; none come to none', () => {
    const { estate } = demoEstate();
    const [one, other] = [filesOfSettings(estate.setting, 'a.example'), filesOfSettings([...estate.setting].reverse(), 'a.example')];
    expect(other).toEqual(one);
    expect(filesOfSettings([], null)).toEqual([]);
    // all that is made is read without a line left out, and no key is unknown
    for (const { id, text } of one) expect([id, mergeConfig([{ name: id, text }]).problems]).toEqual([id, []]);
  });
});

describe('joining by telephone', () => {
  test('a key is read sign by sign, and what is easily mistaken is told apart', () => {
    expect(spelled('Ab-1 lO0I"Å')).toEqual([
      'capital A',
      'b',
      'dash',
      'the digit one',
      'a space',
      'small L',
      'capital o',
      'the digit nought',
      'capital i',
      'double quote',
      'capital Å',
    ]);
    // every printable sign of ASCII has a word of its own or is one that is read as it is
    const all = Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i));
    expect(new Set(spelled(all.join(''))).size).toBe(95);
    for (const word of spelled(all.join(''))) expect(word).toMatch(/^[a-z0-9]$|[a-z]{2}|^capital [A-Z]$/);
  });

  test('a hidden network is typed by name, an open one asks for no key', () => {
    const open = joiningSteps({ name: 'Hall', security: 'nopass', hidden: false }).join(' ');
    expect([open.includes('key, type it'), open.includes('choose “Hall”')]).toEqual([false, true]);
    const hidden = joiningSteps({ name: 'Hall', security: 'SAE', hidden: true }).join(' ');
    expect([hidden.includes('does not say its name'), hidden.includes('WPA3'), hidden.includes('key, type it')]).toEqual([
      true,
      true,
      true,
    ]);
  });
});
