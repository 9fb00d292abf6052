import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { joiningByHand, joiningSteps, judgeScan, readScan, spelled, wifiCode, type Seen, type WifiJoin } from '../index.js';
import type { Fault } from '../../units/result.js';
import { securityNames, securityWords } from './joining.js';

const securities = Object.keys(securityNames) as (keyof typeof securityNames)[];
const seen = (more: Partial<Seen> = {}): Seen => ({
  ...{ name: 'Hall', bssid: '', frequencyMhz: 5180, channel: 36, widthMhz: 80, signalDbm: -60, security: 'WPA', both: false },
  ...more,
});
const low = (channel: number, more: Partial<Seen> = {}) => seen({ frequencyMhz: 2407 + 5 * channel, channel, widthMhz: 20, ...more });
const other = (more: Partial<Seen> = {}) => seen({ name: 'Café', ...more });

/** Scans of which something is told, in the words of the table. */
const scans: Record<string, Seen[]> = {
  'strong at 5 GHz': [seen()],
  'weak at 5 GHz': [seen({ signalDbm: -70 })],
  'too weak': [seen({ signalDbm: -80 })],
  'at 2.4 GHz alone': [low(6)],
  'at 2.4 GHz, and as strong at 5': [low(6, { signalDbm: -50 }), seen({ signalDbm: -67 })],
  'at 2.4 GHz, and too weak at 5': [low(6, { signalDbm: -50 }), seen({ signalDbm: -68 })],
  'between the channels': [low(4)],
  'with one on the same channel': [seen(), other({ signalDbm: -70 })],
  'with two on the same channel at 2.4 GHz': [low(11), low(11, { name: 'Inn', signalDbm: -75 }), low(9, { name: 'Café', signalDbm: -71 })],
  'secured otherwise': [seen({ security: 'SAE' })],
  'with a sign-in of its own': [seen({ security: null })],
  'written otherwise': [seen({ name: ' hall' })],
  'beside one that says no name': [other(), seen({ name: '' })],
  'beside two that say no name': [seen({ name: '' }), seen({ name: '' })],
  'not there': [other()],
  'not there, nor one of two': [other(), other({ name: 'Inn' })],
  empty: [],
};

/** Texts that cannot be read. */
const unread: Record<string, string> = {
  'no scan': 'nothing of the kind',
  'a head alone': 'ssid,signal,channel\n',
  'no such channel': 'ssid,signal,channel\nHall,-50,15\n',
  'no such frequency': 'ssid,signal,freq\nHall,-50,3000\n',
  'no such signal': 'ssid,signal,channel\nHall,loud,6\n',
  'a network without a frequency': 'BSS 02:00:00:00:01:00(on wlan0)\n\tsignal: -50.00 dBm\n',
  'a network without a signal': 'BSS 02:00:00:00:01:00(on wlan0)\n\tfreq: 2412\n',
  'more than 2000 networks': `ssid,signal,channel\n${'Hall,-50,6\n'.repeat(2001)}`,
  'more than two million letters': 'x'.repeat(2_000_001),
};

/** Names and keys, and what a code of them says. */
const joins: Partial<WifiJoin>[] = [
  {},
  { type: 'SAE', hidden: true },
  { type: 'WEP', key: '12345' },
  { type: 'nopass', key: '' },
  { name: 'a;b,c:d"e\\f', key: '\\";,:12345' },
  { name: '' },
  { name: 'n'.repeat(33) },
  { name: 'Hall\n' },
  { key: 'tabulator\t' },
  { key: 'short' },
  { key: 'k'.repeat(64) },
  { type: 'WEP', key: '' },
  { type: 'nopass', key: 'something' },
];

const faultTold = ({ place, problem, remedy }: Fault) => `${place} ${problem}: ${remedy}`;
const told = (text: string) => text.replace(/\|/g, '\\|');
const table = (head: readonly string[], rows: readonly (readonly string[])[]) =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
const steps = (list: readonly string[]) => list.map((step, i) => `${i + 1}. ${step}`).join('\n');

function page(): string {
  const judged = Object.entries(scans).map(([what, list]) => {
    const { verdict, usableMbps, sharing, tells } = judgeScan(list, { name: 'Hall', security: 'WPA' });
    const air = usableMbps ? `${usableMbps.lowMbps.toFixed(1)} to ${usableMbps.highMbps.toFixed(1)} Mbit/s` : '–';
    const said = tells.map(({ text, mend }) => `${text} *${mend}*`).join('<br>') || '–';
    return [what, verdict, air, sharing.map(({ name, signalDbm }) => `${name} ${signalDbm}`).join(', ') || '–', said];
  });
  const wrong = Object.entries(unread).map(([what, text]) => {
    const read = readScan(text);
    if (read.ok) throw new Error(`${what} was read`);
    return [what, faultTold(read.fault)];
  });
  const codes = joins.map((more) => {
    const join: WifiJoin = { name: 'Hall', type: 'WPA', key: 'under the hill', hidden: false, ...more };
    const code = wifiCode(join);
    const given = `${JSON.stringify(join.name)} ${join.type}${join.hidden ? ', hidden' : ''} ${JSON.stringify(join.key)}`;
    return [told(given), code.ok ? `\`${told(code.value)}\`` : faultTold(code.fault)];
  });
  const signs = Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)).filter(
    (sign) => ![sign, `capital ${sign}`].includes(spelled(sign)[0] as string),
  );
  return `# Wi-Fi of a device
What is told of a scan, how a key is read by telephone, and what codes say (written by the tests: \`WRITE=yes npm test unit\`).

## What a scan says
The network that is wanted is “Hall”, secured by WPA2. Others that share its air stand with their signal in dBm.

${table(['the scan has it', 'verdict', 'usable', 'shared with', 'told'], judged)}

## What cannot be read
${table(['a text that holds', 'told'], wrong)}

## How networks are secured
${table(
  ['', 'in short', 'as routers and devices have it'],
  securities.map((each) => [`\`${each}\``, securityNames[each], securityWords[each]]),
)}

## How a key is read
${table(
  ['sign', 'read as'],
  signs.map((sign) => [`\`${told(sign === '`' ? '` `' : sign)}\``, spelled(sign)[0] as string]),
)}

## How somebody joins
### With a key
${steps(joiningSteps({ name: 'Hall', security: 'WPA', hidden: false }))}

### Without a key
${steps(joiningSteps({ name: 'Hall', security: 'nopass', hidden: false }))}

### One that does not say its name
${steps(joiningSteps({ name: 'Hall', security: 'SAE', hidden: true }))}

### On a thin client, with a key and without
${steps(joiningByHand({ name: 'Hall', security: 'WPA' }))}

${steps(joiningByHand({ name: 'Hall', security: 'nopass' }))}

## What a code says
${table(['name, kind and key', 'code, or what is wrong'], codes)}
`;
}

test('whatever the key is for, it is asked for in the same steps', () => {
  const of = (security: (typeof securities)[number]) => joiningSteps({ name: 'Hall', security, hidden: false });
  for (const security of ['SAE', 'WEP'] as const) expect(of(security)).toEqual(of('WPA'));
});

test('the page of Wi-Fi in docs is what is told', () => {
  const file = new URL('../../../../../docs/bringup-wifi.md', import.meta.url);
  const text = page();
  if (process.env.WRITE) writeFileSync(file, text);
  expect(readFileSync(file, 'utf8')).toBe(text);
});
