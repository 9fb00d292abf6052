import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { messageTypes, optionName, optionType, optionValue, type OptionType } from '../index.js';
import { bytesFromHex } from './hex.js';
import { optionProblems } from './values.js';

/** Bytes, in hex, that an option may hold or not, by what it should hold. */
const samples: Record<OptionType | 'own', string[]> = {
  address: ['c0000202', 'c00002', 'c0000202c0', '', '31302e302e302e31'],
  addresses: ['c0000202', 'c0000202c0000203', 'c0000202c0', ''],
  'address pairs': ['c0000200c0000201', 'c0000200c0000201c0000280c0000281', 'c0000200', ''],
  text: ['59617264', '5961726400', '00', '', '4d6f6ce9', '4dc3b66c', 'c0000202', '41097f', '417f'],
  u8: ['08', '0808', ''],
  u16: ['05dc', '05', '0005dc'],
  u32: ['00015180', 'ffffffff', '0151', '0000015180'],
  i32: ['00000e10', 'fffff1f0', '0e10'],
  'yes or no': ['00', '01', '02', '0001'],
  'message type': ['05', '00', '13', '0505'],
  codes: ['01030f', ''],
  identifier: ['010200000001', '01', ''],
  texts: ['0459617264', '04596172640448616c6c', '59617264', '0559617264', '00', '0401ff0203', ''],
  names: [
    '0459617264076578616d706c6500',
    '0459617264076578616d706c650004486f6d65c005',
    '045961',
    '04596172',
    'c000',
    'c0',
    '00c0',
    '4061',
    '0401020304',
    '00',
    '',
  ],
  routes: ['18c00002c0000201', '00c0000201', '0ac0c0c0000201', '20c0000263c0000201', '2100', '18c00002c00002', ''],
  within: ['0104796172640203c00002', '00010161ff', '0105616263', '01', 'ff', ''],
  bytes: ['00ff7f', ''],
  own: ['59617264', '5961726400', 'c0000202', 'c00002', ''],
};
const bytesOf = (hex: string): Uint8Array => {
  const read = bytesFromHex(hex);
  return read.ok ? (read.value[0] as Uint8Array) : new Uint8Array();
};
const codes = Array.from({ length: 256 }, (_, code) => code);
const codeOf = (type: OptionType | 'own') => codes.find((code) => (type === 'own' ? code === 230 : optionType(code) === type)) as number;
const named = codes.filter((code) => optionName(code) !== 'not known');

function page(): string {
  const options = named.map((code) => `| ${code} | ${optionName(code)} | ${optionType(code) ?? 'whatever its fleet writes'} |`);
  const values = (Object.keys(samples) as (OptionType | 'own')[]).flatMap((type) =>
    samples[type].map((hex) => {
      const { value, problems } = optionValue(codeOf(type), bytesOf(hex));
      expect([type, hex, optionProblems(codeOf(type), bytesOf(hex))]).toEqual([type, hex, problems]);
      return `| ${type} | ${hex ? `\`${hex}\`` : 'nothing'} | ${value || '–'} | ${problems.join('; ') || '–'} |`;
    }),
  );
  return `# What is told of DHCP
Options by their numbers, and what is told of their bytes (written by the tests: \`WRITE=yes npm test unit\`). Numbers and what they hold are of RFC 2132 and its successors.

## Options
| number | called | holds |
| --- | --- | --- |
${options.join('\n')}

## Messages
${messageTypes.flatMap((name, i) => (name ? [`${i} ${name}`] : [])).join(', ')}.

## What bytes say
| what it holds | bytes | told as | wrong with it |
| --- | --- | --- | --- |
${values.join('\n')}
`;
}

test('the page of DHCP in docs is what is told', () => {
  const file = new URL('../../../../../docs/bringup-dhcp.md', import.meta.url);
  const text = page();
  if (process.env.WRITE) writeFileSync(file, text);
  expect(readFileSync(file, 'utf8')).toBe(text);
  // nothing beyond a byte, and of the numbers that are free each fleet's own
  expect([optionName(223), optionName(224), optionName(254), optionName(255)]).toEqual([
    'not known',
    'own number',
    'own number',
    'not known',
  ]);
});
