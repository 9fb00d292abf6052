import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { bootFaults, startOf, type OtherStart } from '../../../test/bootFaults.js';
import { boot, bootCauses, mendOf, type BootCause } from '../index.js';

const wifi = { connection: 'wifi', cable: undefined, wifi: { name: 'Yard', security: 'WPA', key: 'long enough a key' } };
const yard = { wifi: { name: 'Yard', security: 'WPA', key: 'long enough a key' } };
const put = (more: object = {}) => [
  { id: 'fw-1', version: '4.13.0', processor: 'x86-64', deviceClass: 'thin-client', sizeMB: 180, ...more },
];

/** Starts that reach their sign-in screen by other ways than the plain one. */
const others: Record<string, OtherStart> = {
  'By Wi-Fi as its place has it': { endpoint: wifi, location: yard },
  'By Wi-Fi of which its place says nothing': { endpoint: wifi },
  'By Wi-Fi whose two keys cannot be compared': {
    endpoint: { ...wifi, wifi: { ...wifi.wifi, key: `sealed:${'A'.repeat(40)}` } },
    location: yard,
  },
  'Newer firmware is installed': { firmware: put() },
  'Older firmware is installed, since somebody gave a reason': { firmware: put({ version: '4.11.0', reason: 'the new one loses sound' }) },
  'No firmware is put up': { firmware: [] },
  'Firmware for another class alone': { firmware: put({ deviceClass: 'kiosk' }) },
  'What firmware it has is not known': { endpoint: { firmware: undefined }, firmware: put() },
  'The lease is short': { scopes: [{ leaseS: 120 }] },
  'A file of its own beside that of the organisation': { own: '[broker]\nport = 443\n' },
  'No file is published': { all: '', own: '' },
};

/** What a start tells: its steps, what it notes, what its files come to, the edit that mends it, and its messages. */
function linesOf(other: OtherStart): string[] {
  const facts = startOf(other);
  const { steps, messages, notes, broken, totalMs, config } = boot(facts);
  const mend = broken && mendOf(facts, broken);
  const ms = (value: number) => `${Number(value.toFixed(3))} ms`;
  return [
    ...steps
      .filter(({ status }) => status !== 'notReached')
      .map(({ name, status, detail, durationMs }) => `${name}, ${status} after ${ms(durationMs)}: ${detail ?? ''}`),
    `in all ${ms(totalMs)}`,
    ...notes.map((note) => `noted: ${JSON.stringify(note)}`),
    ...(config ? config.values.map(({ section, key, value, file, line }) => `${section}.${key} = ${value}, ${file} line ${line}`) : []),
    ...(mend ? [`an edit that mends it: ${JSON.stringify(mend)}`] : []),
    ...messages.map(({ way, text, place }) => `${way}: ${text}${place ? ` | ${place}` : ''}`),
  ];
}
const plain = linesOf({});
const block = (lines: readonly string[]) => ['```', ...lines, '```', ''].join('\n');
/** What is otherwise than in the plain start; what is missing of it is told for those that reach their sign-in screen. */
function otherwise(other: OtherStart): string {
  const lines = linesOf(other);
  const reached = boot(startOf(other)).broken === null;
  return block([
    ...lines.filter((line) => !plain.includes(line)),
    ...(reached ? plain.filter((line) => !lines.includes(line)).map((line) => `not: ${line}`) : []),
  ]);
}

test('the page of starts in docs is what starts tell', () => {
  const page = [
    '# What starts tell',
    '',
    'Starts on a small estate, step by step and message by message, written from the code by its tests (`WRITE=yes npm test unit`): first some that reach',
    'their sign-in screen, then each [fault](bringup-faults.md) and, beside it, one that is as near to it as can be and goes through. Of all but the',
    'first what is otherwise than in the first is told.',
    '',
    '## Plain: by cable, nothing to install',
    '',
    block(plain),
    ...Object.entries(others).flatMap(([title, other]) => [`## ${title}`, '', otherwise(other)]),
    ...(Object.keys(bootCauses) as BootCause[]).flatMap((code) => {
      const { planted, hit, miss } = bootFaults[code];
      return [`## ${code}`, planted, '', otherwise(hit), 'As near as can be:', '', otherwise(miss)];
    }),
  ].join('\n');
  const file = new URL('../../../../../docs/bringup-starts.md', import.meta.url);
  if (process.env.WRITE === 'yes') writeFileSync(file, page);
  expect(readFileSync(file, 'utf8')).toBe(page);
});
