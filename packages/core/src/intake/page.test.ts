import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { coreWords, fieldWords, isFieldWord, plainWords } from './fieldWords.js';
import { readAmount } from './figures.js';
import { saysNothing, wordFor } from './tidy.js';
import { noWords, valueWords, yesWords } from './valueWords.js';

const style = { comma: 'unclear', days: 'unclear' } as const;
/** Units people write, and a field of ours each may stand in. */
const amounts: readonly (readonly [field: string, cells: readonly string[]])[] = [
  ['memoryMB', ['512 KB', '512 KiB', '8 MB', '8 MiB', '8 M', '8 GB', '8 GiB', '8 g', '1 TB', '1 TiB']],
  [
    'downMbps',
    [
      '512 kbit/s',
      '512 kbps',
      '512 kbit',
      '16 Mbit/s',
      '16 Mbps',
      '16 Mbit',
      '16 mb/s',
      '16 MBPS',
      '16 MB/s',
      '2000 kB/s',
      '16 MBps',
      '16 M',
      '1 Gbit/s',
      '1 Gbps',
      '1 Gbit',
      '1 G',
    ],
  ],
  ['delayMs', ['20 ms', '2 s', '2 sec']],
  ['signonS', ['20 s', '20 sec', '500 ms', '2 min']],
  ['signalDbm', ['-67 dBm', '−67 dBm']],
  ['refreshHz', ['60 Hz', '60 kHz']],
  ['widthPx', ['1920 px']],
  ['widthMm', ['600 mm', '60 cm']],
  ['activeShare', ['40 %', '0.4']],
];

test('the page of words in docs is what lists may say', () => {
  const page = [
    '# What lists may say',
    '',
    'Words of people’s own lists that are understood, in English and German, written from the code by its tests (`WRITE=yes npm test unit`).',
    'Case, accents, marks between words and units in brackets do not count. What is not here is chosen by hand once, and kept.',
    '',
    '## What a column may be called',
    '| field | words |',
    '| --- | --- |',
    ...Object.entries(fieldWords).map(([field, words]) => `| ${field} | ${words.join(', ')} |`),
    '',
    '## What a value may be called',
    '| field | value | words |',
    '| --- | --- | --- |',
    ...Object.entries(valueWords).flatMap(([field, values]) =>
      Object.entries(values).map(([value, words]) => `| ${field} | ${value} | ${words.join(', ')} |`),
    ),
    `| yes or no | yes | ${yesWords.join(', ')} |`,
    `| yes or no | no | ${noWords.join(', ')} |`,
    '',
    '## Units',
    '| field | as it is written | comes to |',
    '| --- | --- | --- |',
    ...amounts.flatMap(([field, cells]) =>
      cells.map((cell) => {
        const read = readAmount(cell, field, '', style, false);
        return `| ${field} | ${cell} | ${'text' in read ? read.text : `${read.problem}; wanted: ${read.wanted}`} |`;
      }),
    ),
    '',
  ].join('\n');
  const file = new URL('../../../../docs/intake-words.md', import.meta.url);
  if (process.env.WRITE === 'yes') writeFileSync(file, page);
  expect(readFileSync(file, 'utf8')).toBe(page);
});

test('every word is written as it is compared, and found however people write it', () => {
  for (const word of Object.values(fieldWords).flat()) {
    expect(plainWords(word)).toBe(word);
    for (const written of [word, word.toUpperCase(), `  ${word.replaceAll(' ', '_')}:`, word.replaceAll(' ', '-')])
      expect([written, isFieldWord(written)]).toEqual([written, true]);
  }
  for (const [field, values] of Object.entries(valueWords)) {
    const options = Object.keys(values);
    for (const [value, words] of Object.entries(values)) {
      expect(wordFor(value, field, options)).toBe(value);
      for (const word of words) {
        expect(plainWords(word)).toBe(word);
        // of a word that two values have the first one has it, and a value’s own name comes before any
        const first = options.includes(word)
          ? word
          : options.find((option) => values[option]?.includes(word) || plainWords(option) === word);
        const named = options.find((option) => plainWords(option) === word) ?? first;
        expect([field, word, wordFor(word.toUpperCase(), field, options)]).toEqual([field, word, named]);
      }
    }
  }
  expect(wordFor('no such word', 'connection', ['wired', 'wifi'])).toBeNull();
  expect(wordFor('wired', 'no such field', ['wired'])).toBe('wired');
});

test.each([
  ['Gerätename', 'geratename'],
  ['GRÖSSE', 'grosse'],
  ['Straße', 'strasse'],
  ['deviceName', 'device name'],
  ['RAM2Size', 'ram2 size'],
  ['  Device--Name (old) ', 'device name old'],
  ['IPAddress', 'ipaddress'],
  ['№ 7', 'no 7'],
])('%j is compared as %j', (text, wanted) => expect(plainWords(text)).toBe(wanted));

test.each([
  ['RAM (MB)', 'ram'],
  ['Memory in GB', 'memory'],
  ['Speed [Mbit/s]', 'speed'],
  ['Name of the device', 'name device'],
  ['Inventar-Nr.', 'inventar'],
  ['No.', 'no'],
  ['Latenz ms', 'latenz'],
  ['Signal dBm', 'signal'],
  ['Name des Geräts', 'name gerats'],
  ['kb gb mbit mbps s der die nr', 'kb gb mbit mbps s der die nr'],
  ['kb gb mbit mbps s der die nr x', 'x'],
])('%j comes to %j without units and small words', (text, wanted) => expect(coreWords(text)).toBe(wanted));

test.each([
  '',
  ' ',
  '-',
  '--',
  '–',
  '—',
  '?',
  'N/A',
  'na',
  'n.a.',
  'none given',
  'Unknown',
  'UNBEKANNT',
  'k.A.',
  'k. A.',
  'NULL',
  '#N/A',
  'TBD',
  'nicht bekannt',
])('%j says nothing', (cell) => expect(saysNothing(cell)).toBe(true));
test.each(['0', 'none', 'no', '.', 'x', 'n', '#'])('%j says something', (cell) => expect(saysNothing(cell)).toBe(false));
