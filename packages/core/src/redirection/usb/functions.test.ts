import { describe, expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { bestFor, codeFits, functionsOf, sortOf, tripleOf, written, type ClassTriple, type UsbInterface } from './index.js';

/** Classes that the USB-IF defines for interfaces and devices, by their number, with the triples that count apart; from memory of that list. */
const classes = [
  '01',
  '02',
  '03/01/01',
  '03/01/02',
  '03',
  '05',
  '06',
  '07',
  '08',
  '09',
  '0a',
  '0b',
  '0d',
  '0e',
  '0f',
  '10',
  '11',
  'dc',
  'e0',
  'ef',
  'fe',
  'ff',
];

test('the table of functions in docs is how they are carried', () => {
  const rows = classes.map((code) => {
    const { name, carriedAs, why, kind, exchanges, bearsMs } = sortOf(tripleOf(code));
    return `| \`${code}\` | ${[name, carriedAs, kind ?? '–', exchanges ?? '–', bearsMs === undefined ? '–' : `${bearsMs} ms`, why].join(' | ')} |`;
  });
  const table = `| codes | function | best carried as | kind | exchanges of a job | bears | why |\n| --- | --- | --- | --- | --- | --- | --- |\n${rows.join('\n')}\n`;
  const page = new URL('../../../../../docs/redirection.md', import.meta.url);
  const text = readFileSync(page, 'utf8');
  const marked = /(<!-- functions -->\n)[^]*(<!-- end of functions -->)/;
  expect(text).toMatch(marked);
  const wanted = text.replace(marked, (_, start: string, end: string) => `${start}${table}${end}`);
  if (process.env.WRITE) writeFileSync(page, wanted);
  expect(readFileSync(page, 'utf8')).toBe(wanted);
});

test('codes in short and in full', () => {
  expect(tripleOf('08')).toEqual({ class: '08', subclass: '00', protocol: '00' });
  expect(tripleOf('0E/01')).toEqual({ class: '0e', subclass: '01', protocol: '00' });
  expect(written(tripleOf('FF/FE/01'))).toBe('ff/fe/01');
  expect([codeFits('08', '08/06/50'), codeFits('08/06/50', '08/06/50'), codeFits('08/0', '08/06/50'), codeFits('06', '08/06/50')]).toEqual([
    true,
    true,
    false,
    false,
  ]);
});

const interfaces = (...codes: (string | [number, string])[]): UsbInterface[] =>
  codes.map((each, i) => {
    const [number, code] = typeof each === 'string' ? [i, each] : each;
    return { number, alternate: 0, ...tripleOf(code), endpoints: [] };
  });
const functions = (parts: UsbInterface[], own = '00', ...associations: [first: number, count: number, code: string][]) =>
  functionsOf({
    ...tripleOf(own),
    interfaces: parts,
    associations: associations.map(([first, count, code]) => ({ first, count, ...tripleOf(code) })),
  }).map((each) => `${written(each)} ${each.name}`);

describe('what interfaces are one function', () => {
  test.each<[string, string[], string[]]>([
    ['control and streams of one sound', functions(interfaces('01/01/00', '01/02/00', '01/02/00')), ['01/01/00 audio']],
    ['control and stream of one picture', functions(interfaces('0e/01/00', '0e/02/00')), ['0e/01/00 camera']],
    ['a line and its data', functions(interfaces('02/02/01', '0a/00/00')), ['02/02/01 communications']],
    [
      'sound behind a picture is another',
      functions(interfaces('0e/01/00', '0e/02/00', '01/01/00', '01/02/00')),
      ['0e/01/00 camera', '01/01/00 audio'],
    ],
    ['two of storage are two', functions(interfaces('08/06/50', '08/06/50')), ['08/06/50 storage', '08/06/50 storage']],
    [
      'sound, something else, and sound again',
      functions(interfaces('01/01/00', '03/00/00', '01/01/00')),
      ['01/01/00 audio', '03/00/00 controls', '01/01/00 audio'],
    ],
    ['settings of one interface are one', functions(interfaces([0, '01/01/00'], [1, '01/02/00'], [1, '01/02/00'])), ['01/01/00 audio']],
    [
      'what is said to be one, by the codes it says',
      functions(interfaces('0e/01/00', '0e/02/00', '08/06/50'), 'ef/02/01', [0, 2, '0e/03/00']),
      ['0e/03/00 camera', '08/06/50 storage'],
    ],
    [
      'what is said to be one without a code, by its first',
      functions(interfaces('02/02/01', '0a/00/00'), 'ef/02/01', [0, 2, '00/00/00']),
      ['02/02/01 communications'],
    ],
    [
      'what is said to be one from the second on, and the same class before and behind it',
      functions(interfaces('01/01/00', '01/01/00', '01/02/00', '01/01/00'), 'ef/02/01', [1, 2, '01/00/00']),
      ['01/01/00 audio', '01/00/00 audio', '01/01/00 audio'],
    ],
    ['without interfaces the device is its own', functions([], '09/00/01'), ['09/00/01 hub']],
    ['a class that nobody knows', functions(interfaces('fe/01/01')), ['fe/01/01 other']],
  ])('%s', (_, found, wanted) => expect(found).toEqual(wanted));
});

describe('how a whole device is best carried', () => {
  const best = (...codes: string[]) => bestFor(codes.map((code): ClassTriple => tripleOf(code)));
  test('buttons of a headset and of a camera stay at the desk, and nothing else of it does', () => {
    const buttons = 'controls: its buttons stay at the desk';
    for (const media of ['01/01/00', '0e/01/00', '10/01/00']) {
      const { carriedAs, why } = best('03/00/00', media);
      expect(carriedAs).toBe('channel');
      expect(why).toBe(`${buttons}; ${sortOf(tripleOf(media)).name}: ${sortOf(tripleOf(media)).why}`);
    }
    expect(best('01/01/00', 'ff/00/00').carriedAs).toBe('split');
    // buttons of a printer are no headset’s
    expect(best('07/01/02', '03/00/00').carriedAs).toBe('split');
  });
  test('a channel before raw, raw before what stays, whatever their order; split where something is left to go raw', () => {
    expect(best('09/00/00', 'ff/00/00').carriedAs).toBe('raw USB');
    expect(best('03/01/01', 'ff/00/00').carriedAs).toBe('raw USB');
    expect(best('ff/00/00', '03/01/01').carriedAs).toBe('raw USB');
    expect(best('03/01/01', '08/06/50').carriedAs).toBe('channel');
    expect(best('03/01/01', '09/00/00').carriedAs).toBe('session input');
    expect(best('09/00/00', '03/01/01').carriedAs).toBe('local only');
  });
  test('why: of one function alone, of several by their names, each once', () => {
    expect(best('06/01/01').why).toBe('no channel exists for it');
    expect(best('06/01/01', '02/02/01').why).toBe('still image: no channel exists for it; communications: no channel exists for it');
    expect(best('08/06/50', '08/06/50').why).toBe(`storage: ${sortOf(tripleOf('08')).why}`);
    expect(best()).toEqual({ carriedAs: 'local only', why: 'it has no function' });
  });
});
