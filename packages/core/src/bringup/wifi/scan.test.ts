import { describe, expect, test } from '@jest/globals';
import { judgeScan, readScan, type Seen } from '../index.js';
import { overlaps } from './judge.js';
import { channelOf } from './scan.js';

// layout of iw 5.19, written from memory; names and addresses made up
const iw = String.raw`BSS 02:00:00:00:01:00(on wlan0)
	last seen: 12345.678s [boottime]
	freq: 2437
	beacon interval: 100 TUs
	capability: ESS Privacy ShortSlotTime (0x0411)
	signal: -71.00 dBm
	SSID: Saltmarsh-Hall
	RSN:	 * Version: 1
		 * Authentication suites: PSK
	HT operation:
		 * primary channel: 6
		 * secondary channel offset: no secondary
BSS 02:00:00:00:01:01(on wlan0) -- associated
	freq: 5180.0
	capability: ESS Privacy (0x0011)
	signal: -58.00 dBm
	SSID: Saltmarsh-Hall
	RSN:	 * Version: 1
		 * Authentication suites: PSK SAE
	HT operation:
		 * secondary channel offset: above
	VHT operation:
		 * channel width: 1 (80 MHz)
BSS 02:00:00:00:02:00(on wlan0)
	freq: 5240
	capability: ESS Privacy (0x0011)
	signal: -80.00 dBm
	SSID: caf\xc3\xa9
	RSN:	 * Version: 1
		 * Authentication suites: IEEE 802.1X
BSS 02:00:00:00:03:00(on wlan0)
	freq: 2462
	capability: ESS (0x0401)
	signal: -40.00 dBm
	SSID: \x00\x00\x00
`;
const value = (text: string): Seen[] => {
  const read = readScan(text);
  if (!read.ok) throw new Error(`${read.fault.place}: ${read.fault.problem}`);
  return read.value;
};

describe('what a device found', () => {
  test('as iw prints it: name, channel, width, signal, security', () => {
    expect(
      value(iw).map(({ name, channel, widthMhz, signalDbm, security, both }) => [name, channel, widthMhz, signalDbm, security, both]),
    ).toEqual([
      ['Saltmarsh-Hall', 6, 20, -71, 'WPA', false],
      ['Saltmarsh-Hall', 36, 80, -58, 'SAE', true],
      ['café', 48, 20, -80, null, false],
      ['', 11, 20, -40, 'nopass', false],
    ]);
  });

  test('as a CSV with a head of its own', () => {
    const csv = 'BSSID,SSID,Signal,Channel,Security\r\n02:00:00:00:01:00,"Hall, upstairs",-61 dBm,44,WPA2/WPA3\r\n,x,-90,1,Open\r\n';
    expect(value(csv).map(({ name, channel, signalDbm, security, both }) => [name, channel, signalDbm, security, both])).toEqual([
      ['Hall, upstairs', 44, -61, 'SAE', true],
      ['x', 1, -90, 'nopass', false],
    ]);
    expect(value('ssid,freq,signal,security\na,5180 MHz,-50,WPA2 Enterprise\n')[0]).toMatchObject({ channel: 36, security: null });
  });

  test.each([
    ['', 'line 1'],
    ['nothing of the kind', 'line 1'],
    ['ssid,signal,channel\n', 'the text'],
    ['ssid,signal,channel\na,-50,6\nb,loud,6\n', 'line 3'],
    ['ssid,signal,channel\na,-50,15\n', 'line 2'],
    ['ssid,signal,channel\na,1,6\n', 'line 2'],
    ['BSS 02:00:00:00:01:00(on wlan0)\n\tsignal: -50 dBm\n', 'line 1'],
    ['BSS 02:00:00:00:01:00(on wlan0)\n\tfreq: 2412\n', 'line 1'],
    [`${'x'.repeat(2_000_001)}`, 'the text'],
  ])('%#: what cannot be read is told with its line', (text, place) => {
    const read = readScan(text);
    expect(read.ok ? null : read.fault.place).toBe(place);
  });

  // channels by their frequency as the standard has them
  test.each([
    [2412, 1],
    [2437, 6],
    [2472, 13],
    [2484, 14],
    [5180, 36],
    [5240, 48],
    [5500, 100],
    [5745, 149],
    [5885, 177],
    [5955, 1],
    [6415, 93],
    [2411, 0],
    [3000, 0],
    [5183, 0],
  ])('%d MHz is channel %d', (mhz, channel) => expect(channelOf(mhz)).toBe(channel));
});

describe('whether it will do', () => {
  const seen = (more: Partial<Seen> = {}): Seen => ({
    ...{ name: 'Hall', bssid: '', frequencyMhz: 5180, channel: 36, widthMhz: 80, signalDbm: -60, security: 'WPA', both: false },
    ...more,
  });
  const judged = (list: Seen[], wanted: object = { name: 'Hall', security: 'WPA' }) => judgeScan(list, wanted);

  test('by its signal: from −67 well, down to −75 barely, below not', () => {
    expect([-67, -68, -75, -76].map((signalDbm) => judged([seen({ signalDbm })]).verdict)).toEqual([
      'good',
      'marginal',
      'marginal',
      'poor',
    ]);
    expect(judged([seen()]).tells).toEqual([]);
    expect(judged([seen({ signalDbm: -76 })]).tells[0]?.text).toContain('below -75 it breaks off');
  });

  test('the strongest of several counts; that of the demo stands at 5 GHz', () => {
    const { best, verdict, sharing } = judged(value(iw), { name: 'Saltmarsh-Hall', security: 'WPA' });
    expect([best?.channel, verdict]).toEqual([36, 'good']);
    // the café is on the same block of 80 MHz, and is heard
    expect(sharing.map(({ name }) => name)).toEqual(['café']);
  });

  test('its name and its security must be those of the device', () => {
    expect(judged([seen({ name: 'hall' })])).toMatchObject({ verdict: 'not there', tells: [{ mend: 'Write the name as “hall”.' }] });
    expect(judged([seen({ name: '' })]).tells[0]?.mend).toContain('hidden');
    expect(judged([seen({ name: 'Other' })]).tells[0]?.text).toContain('not among the 1 networks');
    expect(judged([seen({ security: 'SAE' })]).verdict).toBe('cannot be joined');
    expect(judged([seen({ security: 'SAE', both: true })]).verdict).toBe('good');
    expect(judged([seen({ security: null })], { name: 'Hall' }).verdict).toBe('cannot be joined');
    expect(judged([seen({ security: 'SAE' })], { name: 'Hall' }).verdict).toBe('good');
  });

  test('channels share their air where they overlap, and the other is heard', () => {
    const at = (channel: number, more: Partial<Seen> = {}) => seen({ frequencyMhz: 2407 + 5 * channel, channel, widthMhz: 20, ...more });
    // 22 MHz wide and 5 apart: four channels on overlap, five on do not
    expect([overlaps(at(1), at(5)), overlaps(at(1), at(6))]).toEqual([true, false]);
    expect([overlaps(at(1), at(1, { signalDbm: -82 })), overlaps(at(1), at(1, { signalDbm: -83 }))]).toEqual([true, false]);
    const five = (mhz: number, widthMhz: number) => seen({ frequencyMhz: mhz, widthMhz });
    // 36 to 48 is one block of 80 MHz, 52 begins the next; 149 to 161 another
    expect([
      overlaps(five(5180, 80), five(5240, 20)),
      overlaps(five(5240, 80), five(5260, 80)),
      overlaps(five(5745, 80), five(5805, 20)),
    ]).toEqual([true, false, true]);
    expect(overlaps(five(5180, 20), five(5200, 20))).toBe(false);
    expect(judged([at(3)]).tells.map(({ text }) => text)).toEqual([
      'It is there at 2.4 GHz alone, or too weak at 5 GHz.',
      'Channel 3 lies between those that do not overlap.',
    ]);
    expect(judged([at(6, { signalDbm: -50 }), seen({ signalDbm: -60 })]).tells[0]?.mend).toBe('Let the device prefer 5 GHz.');
  });

  test('broken scans by the thousand: told, or read, never thrown', () => {
    let seed = 11;
    const random = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % n;
    const letters = 'BSS: 0123456789-abcdef,"\n\\x.';
    for (let i = 0; i < 2_000; i++) {
      const from = i % 2 ? iw : 'ssid,signal,channel,security\nHall,-50,6,WPA2\n"a",-60,36,SAE\n';
      const at = random(from.length);
      const text = from.slice(0, at) + (letters[random(letters.length)] as string).repeat(random(4)) + from.slice(at + random(6));
      const read = readScan(text);
      if (read.ok) judgeScan(read.value, { name: 'Hall', security: 'WPA' });
      else expect(read.fault.place).toMatch(/^(line \d+|the text)$/);
    }
  });
});
