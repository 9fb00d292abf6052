import { describe, expect, test } from '@jest/globals';
import { Setting } from '@underpass/contracts';
import fc from 'fast-check';
import { demoEstate } from '../../../test/demo.js';
import { filesOfSettings, mergeConfig, readLine } from '../index.js';

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
