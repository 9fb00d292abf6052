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

  /** One network as iw prints it, with lines changed or left out. */
  const oneOf = (...lines: string[]) => `BSS 02:00:00:00:01:0A(on wlan0)\n${lines.map((line) => `\t${line}\n`).join('')}`;
  const told = ['freq: 2437', 'signal: -71.00 dBm', 'SSID: Hall'];

  test.each<[string, string[], Partial<Seen>]>([
    ['a frequency with a fraction', ['freq: 5179.75'], { frequencyMhz: 5180, channel: 36 }],
    ['a signal without one', ['signal: -71 dBm'], { signalDbm: -71 }],
    ['a signal of nought', ['signal: 0 dBm'], { signalDbm: 0 }],
    ['a signal with a fraction', ['signal: -71.25 dBm'], { signalDbm: -71.25 }],
    ['a name of nothing', ['SSID:'], { name: '' }],
    ['a name with blanks and a colon', ['SSID: a  b: c '], { name: 'a  b: c ' }],
    ['a name with a percent sign beside bytes', ['SSID: 5% caf\\xc3\\xa9 %41'], { name: '5% café %41' }],
    ['bytes that are no letters', ['SSID: \\xff\\xfe'], { name: '\\xff\\xfe' }],
    ['nought beside a letter', ['SSID: a\\x00'], { name: 'a\u0000' }],
    [
      'what stands before its line',
      ['- freq: 2462', 'the signal: -40.00 dBm', 'Mesh SSID: Other'],
      { channel: 6, signalDbm: -71, name: 'Hall' },
    ],
    ['privacy and no suites', ['capability: ESS Privacy (0x0011)'], { security: 'WEP', both: false }],
    ['a word that only begins so', ['capability: ESS PrivacyFilter (0x0001)'], { security: 'nopass', both: false }],
    ['privacy elsewhere', ['not capability: ESS Privacy'], { security: 'nopass' }],
    ['a key of all', ['* Authentication suites: PSK'], { security: 'WPA', both: false }],
    ['by its longer word', ['* Authentication suites: PSK/SHA-256'], { security: 'WPA', both: false }],
    ['for those that move', ['* Authentication suites: FT/PSK'], { security: 'WPA', both: false }],
    ['the newer one', ['* Authentication suites: SAE'], { security: 'SAE', both: false }],
    ['the newer one for those that move', ['* Authentication suites: FT/SAE'], { security: 'SAE', both: false }],
    ['both, blanks between', ['* Authentication suites: PSK  SAE'], { security: 'SAE', both: true }],
    ['both in two lines', ['* Authentication suites: PSK', '* Authentication suites: SAE'], { security: 'SAE', both: true }],
    ['a sign-in of its own', ['* Authentication suites: IEEE 802.1X'], { security: null, both: false }],
    ['twice as wide, above', ['* secondary channel offset: above'], { widthMhz: 40 }],
    ['twice as wide, below', ['* secondary channel offset: below'], { widthMhz: 40 }],
    ['no wider', ['* secondary channel offset: no secondary'], { widthMhz: 20 }],
    ['no wider by its later words', ['* channel width: 0 (20 or 40 MHz)'], { widthMhz: 20 }],
    ['four times as wide', ['* secondary channel offset: above', '* channel width: 1 (80 MHz)'], { widthMhz: 80 }],
    ['eight times', ['* channel width: 2 (160 MHz)'], { widthMhz: 160 }],
    ['eight times in two', ['* channel width: 3 (80+80 MHz)'], { widthMhz: 160 }],
  ])('%s', (_, lines, wanted) => expect(value(oneOf(...told, ...lines))).toEqual([expect.objectContaining(wanted)]));

  test('each network is read for itself, its address in small letters, whatever stands before the first', () => {
    const text = `wlan0: scan\n\tfreq: 5180\n${oneOf(...told)}\n  ${oneOf('freq: 5180', 'signal: -50.00 dBm')}`;
    expect(value(text).map(({ bssid, name, channel }) => [bssid, name, channel])).toEqual([
      ['02:00:00:00:01:0a', 'Hall', 6],
      ['02:00:00:00:01:0a', '', 36],
    ]);
    // the first of several that is not whole is told in its line
    expect(readScan(`${oneOf('freq: 2437')}${oneOf(...told)}`)).toMatchObject({ ok: false, fault: { place: 'line 1' } });
    expect(readScan(`${oneOf(...told)}${oneOf('signal: -50.00 dBm')}`)).toMatchObject({ ok: false, fault: { place: 'line 5' } });
    // half an address is none, and a word before it is none either
    for (const head of ['BSS 02:00:00:00:01', 'Last BSS 02:00:00:00:01:00']) expect(readScan(`${head}\n\tfreq: 2437\n`).ok).toBe(false);
  });

  test('a scan comes to the same whichever of the two it is written as', () => {
    const words = { WPA: ['PSK', 'WPA2'], SAE: ['SAE', 'WPA3'], both: ['PSK SAE', 'WPA2 WPA3'], null: ['IEEE 802.1X', 'WPA2 802.1X'] };
    const channels = [...Array.from({ length: 13 }, (_, i) => [i + 1, 2412 + 5 * i]), [14, 2484], [32, 5160], [36, 5180], [177, 5885]];
    const networks = channels.flatMap(([channel, mhz], i) =>
      Object.values(words).map(([suites, said], j) => ({ channel, mhz, suites, said, dbm: -(i + 20 * j), name: `Hall ${i}, ${j}` })),
    );
    const printed = networks
      .map(({ mhz, suites, dbm, name }) =>
        oneOf(`freq: ${mhz}`, `signal: ${dbm} dBm`, `SSID: ${name}`, `* Authentication suites: ${suites}`),
      )
      .join('');
    for (const byMhz of [false, true]) {
      const rows = networks.map(
        ({ channel, mhz, said, dbm, name }) => ` "${name}" ,02:00:00:00:01:0A,${byMhz ? `${mhz} MHz` : channel}, ${dbm} dBm ,${said}`,
      );
      const csv = `\uFEFFSSID,BSSID,${byMhz ? 'Frequency' : 'Channel'},Signal,Security\n\n${rows.join('\n')}\n \n`;
      expect(value(csv)).toEqual(value(printed));
    }
    expect(value(printed).map(({ channel }) => channel)).toEqual(networks.map(({ channel }) => channel));
  });

  test.each([
    ['WPA', 'WPA', false],
    ['WPA2-PSK', 'WPA', false],
    ['PSK', 'WPA', false],
    ['WPA3', 'SAE', false],
    ['SAE', 'SAE', false],
    ['WPA3 SAE', 'SAE', false],
    ['WPA2/WPA3', 'SAE', true],
    ['SAE PSK', 'SAE', true],
    ['WEP', 'WEP', false],
    ['open', 'nopass', false],
    [' none ', 'nopass', false],
    ['--', 'nopass', false],
    ['', 'nopass', false],
    ['opened', null, false],
    ['WPA3 Enterprise', null, false],
    ['WPA2 EAP', null, false],
    ['802.1X', null, false],
  ])('“%s” in a CSV is %s', (said, security, both) => {
    expect(value(`ssid,signal,channel,security\nHall,-50,6,"${said}"\n`)[0]).toMatchObject({ security, both });
  });

  test('a field in quotes may hold what parts fields, and quotes of its own [RFC 4180]', () => {
    const names = ['a"b', 'a,b', '"', 'a""b', ' a '];
    const rows = names.map((name) => `-50,6,"${name.replace(/"/g, '""')}"`);
    expect(value(`level,chan,network\n${rows.join('\n')}`).map(({ name }) => name)).toEqual(names.map((name) => name.trim()));
    // a quote within a field that has none around it is one of its letters
    expect(value('mac,rssi,mhz,name\nx,-50,2412,a"b')[0]?.name).toBe('a"b');
  });

  test.each([['signal,channel'], ['ssid,channel'], ['ssid,signal'], ['ssid,signal,channels'], ['xssid,signal,channel']])(
    '%s is no head',
    (head) => expect(readScan(`${head}\nHall,-50,6\n`)).toMatchObject({ ok: false, fault: { place: 'line 1' } }),
  );

  test.each([
    ['-120', true],
    ['-121', false],
    ['0', true],
    ['1', false],
    ['', false],
    ['-50 dBmx', false],
    ['-50dbm', true],
  ])('a signal of “%s” is taken: %s', (dbm, isGood) => expect(readScan(`signal,ssid,channel\n${dbm},Hall,6\n`).ok).toBe(isGood));

  test.each([
    ['channel', '0', false],
    ['channel', '13', true],
    ['channel', '15', false],
    ['channel', '31', false],
    ['channel', '32', true],
    ['channel', '177', true],
    ['channel', '178', false],
    ['channel', '-5', false],
    ['freq', '5180 mhz', true],
    ['freq', '5180 MHz!', false],
    ['freq', '6', false],
  ])('a %s of %s is taken: %s', (head, given, isGood) => expect(readScan(`${head},signal,ssid\n${given},-50,Hall\n`).ok).toBe(isGood));

  test('2000 networks and two million letters are read, and one more is not', () => {
    const csv = (rows: number) => `ssid,signal,channel\n${'Hall,-50,6\n'.repeat(rows)}`;
    expect([readScan(csv(2000)).ok, readScan(csv(2001)).ok]).toEqual([true, false]);
    const long = (letters: number) => csv(1) + ' '.repeat(letters - csv(1).length);
    expect([readScan(long(2_000_000)).ok, readScan(long(2_000_001)).ok]).toEqual([true, false]);
  });

  test('every frequency has the channel that the standard counts, and no other has one', () => {
    // [IEEE 802.11-2020 annex E]: first channel, its frequency, how many
    const bands = [
      [1, 2412, 13],
      [14, 2484, 1],
      [32, 5160, 146],
      [1, 5955, 233],
    ] as const;
    const known = new Map(bands.flatMap(([first, mhz, many]) => Array.from({ length: many }, (_, i) => [mhz + 5 * i, first + i])));
    for (let mhz = 2300; mhz <= 7300; mhz++) expect([mhz, channelOf(mhz)]).toEqual([mhz, known.get(mhz) ?? 0]);
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
    expect(judged([seen({ name: 'Other' })]).tells[0]?.text).toBe('“Hall” is not there; one other network is.');
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
