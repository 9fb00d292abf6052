import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { edidBytes, readEdid, type Edid } from './index.js';

/*
 * Descriptions of real screens of many years, from the source package edid-decode of Debian 12 (its licence is MIT), their names, numbers
 * and makers replaced; beside each what that program (git 2022-03-15) reads in it: modes as width × height @ whole Hz.
 */
interface Known {
  hex: string;
  manufacturer: string;
  product: number;
  year: number;
  name: string | null;
  preferred: [number, number, number, number] | null;
  sizeMm: [number, number] | null;
  blocks: string[];
  wrongSums: number;
  modes: string[];
}
const known = JSON.parse(readFileSync(new URL('../fixtures/edids.json', import.meta.url), 'utf8')) as Known[];
const fromHex = (hex: string) => Uint8Array.from(Buffer.from(hex, 'hex'));
const good = (bytes: Uint8Array): Edid => {
  const result = readEdid(bytes);
  if (!result.ok) throw new Error(`${result.fault.place} ${result.fault.problem}`);
  return result.value;
};

describe('descriptions of real screens', () => {
  test.each(known.map((each) => [`${each.name ?? 'without a name'}, ${each.year}`, each] as const))('%s', (_, each) => {
    const edid = good(fromHex(each.hex));
    expect([edid.manufacturer, edid.product, edid.year, edid.name]).toEqual([each.manufacturer, each.product, each.year, each.name]);
    const { preferred } = edid;
    expect(preferred && [preferred.widthPx, preferred.heightPx, Number(preferred.refreshHz.toFixed(6)), preferred.clockMhz]).toEqual(
      each.preferred,
    );
    if (each.sizeMm) expect([edid.widthMm, edid.heightMm]).toEqual(each.sizeMm);
    const modes = edid.modes.map(
      ({ widthPx, heightPx, interlaced, refreshHz }) => `${widthPx}x${heightPx}${interlaced ? 'i' : ''}@${Math.round(refreshHz)}`,
    );
    expect(modes.sort()).toEqual(each.modes);
    expect(edid.problems.filter(({ text }) => text.includes('sums to'))).toHaveLength(each.wrongSums);
    expect(edid.extensions.map((name) => name.slice(0, 3).toLowerCase())).toEqual(
      each.blocks.map((block) =>
        block
          .replace(/^Unknown.*/, 'not known')
          .slice(0, 3)
          .toLowerCase(),
      ),
    );
  });

  test('are many, of many years', () => {
    expect(known.length).toBeGreaterThanOrEqual(30);
    expect(new Set(known.map(({ year }) => year)).size).toBeGreaterThanOrEqual(15);
  });
});

/** A screen of 1080 lines, laid out by hand; what a test changes is summed anew. */
const plain = (change: (bytes: Uint8Array) => void = () => undefined, blocks = 0): Uint8Array => {
  const bytes = new Uint8Array(128 * (1 + blocks));
  bytes.set([0, 255, 255, 255, 255, 255, 255, 0, 0x56, 0x0e, 0x34, 0x12, 0, 0, 0, 0, 10, 30, 1, 4, 0x80, 60, 34], 0);
  bytes.fill(1, 38, 54);
  // 148.50 MHz, 1920 + 280, 1080 + 45, 597 × 336 mm
  bytes.set([0x02, 0x3a, 0x80, 0x18, 0x71, 0x38, 0x2d, 0x40, 0x58, 0x2c, 0x45, 0x00, 0x55, 0x50, 0x21, 0, 0, 0x1e], 54);
  for (const offset of [72, 90, 108]) bytes[offset + 3] = 0x10;
  bytes[126] = blocks;
  change(bytes);
  for (let from = 0; from < bytes.length; from += 128)
    bytes[from + 127] = (256 - bytes.subarray(from, from + 127).reduce((sum, byte) => (sum + byte) & 255, 0)) & 255;
  return bytes;
};
const modesOf = (bytes: Uint8Array) =>
  good(bytes).modes.map(
    ({ widthPx, heightPx, refreshHz, interlaced, only420 }) =>
      `${widthPx}x${heightPx}${interlaced ? 'i' : ''}@${Math.round(refreshHz)}${only420 ? ' 4:2:0' : ''}`,
  );
const cta =
  (...data: number[]) =>
  (bytes: Uint8Array) =>
    bytes.set([2, 3, 4 + data.length, 0, ...data], 128);

describe('a description laid out by hand', () => {
  test('says who made it, when, how large it is and what it wants most', () => {
    expect(good(plain())).toEqual({
      manufacturer: 'UPN',
      product: 0x1234,
      name: null,
      year: 2020,
      widthMm: 597,
      heightMm: 336,
      preferred: expect.objectContaining({ widthPx: 1920, heightPx: 1080, refreshHz: 60, clockMhz: 148.5, interlaced: false }),
      modes: [{ widthPx: 1920, heightPx: 1080, refreshHz: 60, interlaced: false, only420: false }],
      extensions: [],
      problems: [],
    });
  });

  test('its size is that of the picture, in whole cm where that says none, and none where nothing does', () => {
    const without = (bytes: Uint8Array) => bytes.fill(0, 66, 69);
    expect(good(plain(without))).toMatchObject({ widthMm: 600, heightMm: 340 });
    expect(good(plain((bytes) => void (without(bytes), (bytes[22] = 0))))).toMatchObject({ widthMm: null, heightMm: null });
    // of a picture that has one side alone too
    for (const side of [66, 67]) {
      const one = (bytes: Uint8Array) => void (without(bytes), (bytes[side] = 0x55));
      expect(good(plain(one))).toMatchObject({ widthMm: 600, heightMm: 340 });
    }
  });

  test.each<[string, (bytes: Uint8Array) => void, string[]]>([
    ['a bit each', (bytes) => bytes.set([0x21, 0x08, 0x80], 35), ['640x480@60', '800x600@60', '1024x768@60', '1152x870@75']],
    [
      'two bytes each, in four shapes',
      (bytes) => bytes.set([0xd1, 0xc0, 0x81, 0x80, 0x81, 0x4f, 0xb3, 0x00], 38),
      ['1920x1080@60', '1280x1024@60', '1280x960@75', '1680x1050@60'],
    ],
    ['a first byte that is none', (bytes) => bytes.set([0x01, 0x00, 0x00, 0x40], 38), []],
    [
      'more of two bytes each',
      (bytes) => bytes.set([0, 0, 0, 0xfa, 0, 0x61, 0x40, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 0x0a], 72),
      ['1024x768@60'],
    ],
    [
      'more of a bit each',
      (bytes) => bytes.set([0, 0, 0, 0xf7, 0, 10, 0x88, 0, 0, 0, 0, 0x10], 72),
      ['640x350@85', '848x480@60', '1920x1440@75'],
    ],
    [
      'by a formula',
      (bytes) => bytes.set([0, 0, 0, 0xf8, 0, 1, 0x1b, 0x24, 0x28, 0xff, 0x10, 0x10, 0, 0, 0, 0, 0, 0], 72),
      ['1920x1080@60', '1360x1024@50'],
    ],
    [
      'interlaced',
      (bytes) => bytes.set([0x01, 0x1d, 0x80, 0x18, 0x71, 0x1c, 0x16, 0x20, 0x58, 0x2c, 0x25, 0x00, 0x55, 0x50, 0x21, 0, 0, 0x9e], 72),
      ['1920x1080i@60'],
    ],
  ])('modes in %s', (_, change, modes) => {
    const found = modesOf(plain(change));
    expect(new Set(found)).toEqual(new Set(['1920x1080@60', ...modes]));
  });

  test('a picture of half lines has half a line more in each half', () => {
    // 74.25 MHz / (2200 × 562.5) is 60 halves a second [CTA-861, 1080i]
    const bytes = plain((all) =>
      all.set([0x01, 0x1d, 0x80, 0x18, 0x71, 0x1c, 0x16, 0x20, 0x58, 0x2c, 0x25, 0, 0x55, 0x50, 0x21, 0, 0, 0x9e], 54),
    );
    expect(good(bytes).preferred).toMatchObject({ widthPx: 1920, heightPx: 1080, interlaced: true, refreshHz: 60 });
  });

  test('a square mode is one of the older revisions alone', () => {
    const square = (revision: number) => plain((bytes) => void (bytes.set([0x81, 0x00], 38), (bytes[19] = revision)));
    expect(modesOf(square(2))).toContain('1280x1280@60');
    expect(modesOf(square(3))).toContain('1280x800@60');
  });

  test.each<[string, number[], string[]]>([
    ['by number, native ones too', [0x43, 4, 0x80 | 16, 97], ['1280x720@60', '3840x2160@60']],
    ['with colours at a quarter of the detail alone', [0xe2, 14, 97], ['3840x2160@60 4:2:0']],
    ['in full as well', [0x41, 97, 0xe2, 14, 97], ['3840x2160@60']],
    ['of HDMI before', [0x6a, 3, 12, 0, 0x10, 0, 0, 60, 0x20, 0, 0x20], []],
    ['of HDMI before, with their numbers', [0x6b, 3, 12, 0, 0x10, 0, 0, 60, 0x20, 0, 0x20, 1], ['3840x2160@30']],
    ['of HDMI before, behind latencies', [0x6d, 3, 12, 0, 0x10, 0, 0, 60, 0xa0, 5, 5, 0, 0x20, 3], ['3840x2160@24']],
    ['of a maker that is another', [0x6b, 3, 13, 0, 0x10, 0, 0, 60, 0x20, 0, 0x20, 1], []],
    ['a number that is none', [0x41, 220], []],
    // up to 64 the highest bit says native: 129 is the first, 192 the last of them, 193 is a mode of its own
    ['the first native one', [0x41, 129], ['640x480@60']],
    ['no native one', [0x41, 128], []],
    ['the last native one', [0x41, 192], ['1920x1080@100']],
    ['the first beyond them', [0x41, 193], ['5120x2160@120']],
  ])('modes of its extension %s', (_, data, modes) => {
    expect(new Set(modesOf(plain(cta(...data), 1)))).toEqual(new Set(['1920x1080@60', ...modes]));
  });

  test('modes of its extension in full, and by number only from revision 3 on', () => {
    const full = [0x04, 0x74, 0x00, 0x30, 0xf2, 0x70, 0x5a, 0x80, 0xb0, 0x58, 0x8a, 0x00, 0x55, 0x50, 0x21, 0, 0, 0x1e];
    const second = (revision: number) => plain((bytes) => bytes.set([2, revision, 6, 0, 0x41, 4, ...full], 128), 1);
    expect(modesOf(second(3))).toEqual(['1920x1080@60', '1280x720@60', '3840x2160@30']);
    expect(modesOf(second(1))).toEqual(['1920x1080@60', '3840x2160@30']);
  });
});

describe('what is wrong is told, with where it stands, and the rest is read', () => {
  test.each<[string, Uint8Array, string[]]>([
    [
      'a sum',
      (() => {
        const bytes = plain();
        bytes[127]!++;
        return bytes;
      })(),
      ['127: block 0 sums to 1 instead of 0: a byte of it is wrong'],
    ],
    [
      'the sum of a further block',
      (() => {
        const bytes = plain(cta(), 1);
        bytes[255]!--;
        return bytes;
      })(),
      ['255: block 1 sums to 255 instead of 0: a byte of it is wrong'],
    ],
    ['blocks that are not there', plain((bytes) => void (bytes[126] = 2)), ['126: says that 2 more blocks follow; 0 are there']],
    ['half a block', new Uint8Array([...plain(), ...new Uint8Array(60)]), ['188: ends within a block, 60 bytes after its beginning']],
    ['a maker that is no letters', plain((bytes) => bytes.set([0, 0], 8)), ['8: names its maker with something that is no letter']],
    ['a week that is none', plain((bytes) => void (bytes[16] = 99)), ['16: was made in week 99 of a year']],
    [
      'a maker whose letter is beyond Z',
      plain((bytes) => bytes.set([0x56, 0x1b], 8)),
      ['8: names its maker with something that is no letter'],
    ],
    [
      'a maker with one letter that is none',
      plain((bytes) => bytes.set([0x56, 0x00], 8)),
      ['8: names its maker with something that is no letter'],
    ],
    ['a maker from A to Z', plain((bytes) => bytes.set([0x04, 0x3a], 8)), []],
    ['the last week of a year', plain((bytes) => void (bytes[16] = 54)), []],
    ['a week that is none by one', plain((bytes) => void (bytes[16] = 55)), ['16: was made in week 55 of a year']],
    ['the year of a model', plain((bytes) => void (bytes[16] = 255)), []],
    ['a year without a week', plain((bytes) => void (bytes[16] = 0)), []],
    ['the first year there is, with a week', plain((bytes) => void (bytes[17] = 0)), []],
    [
      'several, in the order in which they stand',
      plain((bytes) => void (bytes.fill(0, 54, 72), (bytes[18] = 2), (bytes[126] = 1), bytes.set([0, 0], 8))),
      [
        '8: names its maker with something that is no letter',
        '18: is version 2.4 of the format; 1.0 to 1.4 can be read',
        '54: does not say first which mode it wants most',
        '126: says that 1 more block follows; 0 are there',
      ],
    ],
    [
      'a mode before a version: by its place all the same',
      plain((bytes) => void ((bytes[59] = 0), (bytes[61] = 0), (bytes[126] = 1), (bytes[18] = 2)), 0),
      [
        '18: is version 2.4 of the format; 1.0 to 1.4 can be read',
        '54: describes a mode of 1920 × 0',
        '126: says that 1 more block follows; 0 are there',
      ],
    ],
    ['no year', plain((bytes) => bytes.set([0, 0], 16)), ['17: does not say when it was made']],
    ['another version', plain((bytes) => void (bytes[18] = 2)), ['18: is version 2.4 of the format; 1.0 to 1.4 can be read']],
    ['no mode first', plain((bytes) => bytes.fill(0, 54, 72)), ['54: does not say first which mode it wants most']],
    ['a mode of no lines', plain((bytes) => void ((bytes[59] = 0), (bytes[61] = 0))), ['54: describes a mode of 1920 × 0']],
    ['data beyond its place', plain(cta(0x5f, 4), 1), ['132: has data of 31 bytes; 1 are left for it']],
    [
      'detailed modes at no place',
      plain((bytes) => bytes.set([2, 3, 2, 0], 128), 1),
      ['130: says that its detailed modes begin at byte 2 of the block'],
    ],
  ])('%s', (_, bytes, problems) => {
    expect(good(bytes).problems.map(({ offset, text }) => `${offset}: ${text}`)).toEqual(problems);
  });

  test('what is no description, or not all of one, is refused', () => {
    expect(readEdid(plain().slice(1))).toMatchObject({ fault: { place: 'byte 0' } });
    expect(readEdid(plain().slice(0, 127))).toMatchObject({
      fault: { place: 'byte 127', problem: 'ends after 127 bytes; the base block alone has 128' },
    });
  });

  test('ten thousand that are broken anywhere: never a crash, and every problem lies within', () => {
    let seed = 3;
    /** The same numbers in every run [Park and Miller 1988]. */
    const pick = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % n;
    const all = known.map(({ hex }) => fromHex(hex));
    for (let run = 0; run < 10_000; run++) {
      const whole = all[run % all.length]!;
      const bytes = whole.slice(0, run % 5 ? whole.length : 8 + pick(whole.length - 8));
      for (let i = pick(8); i >= 0; i--) bytes[8 + pick(bytes.length - 8)] = pick(256);
      const result = readEdid(bytes);
      if (!result.ok) continue;
      for (const { offset } of result.value.problems) if (offset < 0 || offset > bytes.length) throw new Error(`a problem at ${offset}`);
      if (!result.value.modes.every(({ refreshHz }) => Number.isFinite(refreshHz))) throw new Error('a rate that is no number');
    }
  });
});

describe('a file of it', () => {
  const bytes = plain(cta(0x41, 4), 1);
  const text = (of: string) => Uint8Array.from(Buffer.from(of));
  const pairs = Buffer.from(bytes).toString('hex').match(/../g)!;
  const lines = Array.from({ length: 16 }, (_, i) => pairs.slice(16 * i, 16 * i + 16).join(' ')).join('\n');
  test.each<[string, Uint8Array]>([
    ['as it is', bytes],
    ['hex without spaces', text(pairs.join(''))],
    ['hex in lines, with others around', text(`a dump of it:\n\n${lines}\n\nend\n`)],
    ['hex in capitals', text(lines.toUpperCase())],
    ['base64', text(Buffer.from(bytes).toString('base64'))],
    [
      'base64 in lines',
      text(
        Buffer.from(bytes)
          .toString('base64')
          .replace(/(.{60})/g, '$1\r\n'),
      ),
    ],
  ])('%s', (_, file) => {
    expect(edidBytes(file)).toEqual({ ok: true, value: bytes });
  });

  test.each<[string, Uint8Array, string]>([
    ['nothing', new Uint8Array(0), 'is empty'],
    ['a text', text('a letter to a friend'), 'is no description of a screen'],
    ['hex of something else', text('01 02 03 04 05 06 07 08 09'), 'is no description of a screen'],
    ['bytes of something else', Uint8Array.of(0, 255, 7, 200), 'is 7, where a description begins with 0, six times 255, 0'],
    ['three bytes', Uint8Array.of(0, 255, 255), 'is missing, where a description begins with 0, six times 255, 0'],
    ['one without an end', new Uint8Array(257 * 128).map((_, i) => bytes[i] ?? 0), 'goes on beyond 256 blocks'],
  ])('%s is refused', (_, file, problem) => {
    expect(edidBytes(file)).toMatchObject({ ok: false, fault: { problem } });
  });
});
