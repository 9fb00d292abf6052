import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import {
  checkFirstBoot,
  countriesOf,
  countriesOfLayout,
  firstBootText,
  layoutsOf,
  matchImage,
  offsetMinutes,
  ReadBack,
  readFirstBoot,
  sameZone,
  writableTarget,
  type CardTarget,
  type FirstBoot,
} from '../index.js';

describe('an image is matched with a device', () => {
  const image = { deviceClass: 'thin-client', processor: 'arm64', models: ['Weir 3', 'Weir 4'], bootMode: 'board' } as const;
  const device = { deviceClass: 'thin-client', processor: 'arm64', model: 'weir 4 ', bootMode: 'board' } as const;
  test.each([
    ['all of it', {}, 'fits'],
    ['another processor', { processor: 'armhf' }, 'does not fit'],
    ['another class', { deviceClass: 'kiosk' }, 'does not fit'],
    ['another model', { model: 'Weir 2' }, 'does not fit'],
    ['another start', { bootMode: 'uefi' }, 'does not fit'],
    ['a model nobody told', { model: undefined }, 'not known'],
    ['a start nobody told', { bootMode: undefined }, 'not known'],
    ['what does not fit outweighs what is not known', { bootMode: undefined, processor: 'x86-64' }, 'does not fit'],
  ] as const)('%s', (_, more, fit) =>
    expect(matchImage({ ...image, models: [...image.models] }, { ...device, ...more } as never).fit).toBe(fit),
  );
  test('one for any model', () => {
    expect(matchImage({ ...image, models: [] }, { ...device, model: undefined }).parts[2]).toMatchObject({ fit: 'fits', wanted: 'any' });
  });
});

describe('where an image may be written', () => {
  const card: CardTarget = { path: '/dev/sdx', is: 'disk', bytes: 16e9, label: 'WEIR', removable: true, mounts: [], held: false };
  const told = (target: Partial<CardTarget>, meant: { label?: string; bytes?: number } = { label: 'WEIR' }, image = 4e9) => {
    const result = writableTarget({ ...card, ...target }, image, meant);
    return result.ok ? 'written' : `${result.fault.problem}; ${result.fault.remedy}`;
  };
  test.each<[string, Partial<CardTarget>, RegExp]>([
    ['a card by its label', {}, /^written$/],
    ['the disk of a system', { mounts: ['/mnt', '/'] }, /holds \/: it is a disk of this system/],
    ['the boot part of one', { mounts: ['/boot/efi'] }, /holds \/boot\/efi/],
    ['homes', { mounts: ['/home'] }, /holds \/home/],
    ['swap', { held: true }, /in use by this system/],
    ['one that cannot be taken out', { removable: false }, /looks like a disk of the system/],
    ['one of which nobody knows', { removable: null }, /looks like a disk of the system/],
    ['as large as a card can be', { bytes: 2e12 }, /^written$/],
    ['larger than any card', { bytes: 2e12 + 1 }, /2000.00 GB: that is no card/],
    ['a card that is mounted', { mounts: ['/media/WEIR'] }, /is mounted at \/media\/WEIR; unmount/],
    ['one part of a card', { is: 'part' }, /one part of a disk/],
    ['a pipe', { is: 'other' }, /no file and no disk/],
    ['just large enough', { bytes: 4e9 }, /^written$/],
    ['one byte too small', { bytes: 4e9 - 1 }, /take a larger card/],
  ])('%s', (_, target, says) => expect(told(target)).toMatch(says));

  test('it is named by what it is, never by a letter alone', () => {
    expect(told({}, {})).toContain('is named by its path alone; say what you mean as well: its label (WEIR) or its size');
    expect(told({}, { label: 'OTHER' })).toContain('is called “WEIR”, not “OTHER”');
    expect(told({ label: null }, { label: 'OTHER' })).toContain('is called nothing');
    expect(told({}, { bytes: 16.1e9 })).toBe('written');
    expect(told({}, { bytes: 16.2e9 })).toContain('holds 16.00 GB, not 16.20 GB');
    expect(told({ bytes: null }, { bytes: 16e9 })).toContain('holds nobody knows how much');
    // a file stands in for a card and grows
    expect(told({ is: 'file', bytes: 0, label: null, removable: null }, {})).toBe('written');
    expect(told({ is: 'file', bytes: 8e9, label: null, removable: null }, {})).toContain('is a file that holds 8.00 GB already');
    expect(told({ is: 'file', bytes: 8e9, label: null, removable: null }, { bytes: 8e9 })).toBe('written');
    expect(told({ is: 'file', bytes: 8e9, label: null, removable: null }, { bytes: 4e9 })).toContain('not 4.00 GB');
    // whatever was said, the system's disk is refused
    expect(told({ mounts: ['/'] }, { label: 'WEIR', bytes: 16e9 })).toContain('a disk of this system');
  });
});

describe('a card is read back', () => {
  const cut = (bytes: Uint8Array, cuts: readonly number[]): Uint8Array[] => {
    const edges = [0, ...cuts.map((each) => each % (bytes.length + 1)).sort((a, b) => a - b), bytes.length];
    return edges.slice(1).map((end, i) => bytes.subarray(edges[i], end));
  };
  const held = (image: readonly Uint8Array[], card: readonly Uint8Array[], first: boolean) => {
    const back = new ReadBack();
    // one of them is ahead of the other
    if (first) for (const piece of image) back.addImage(piece);
    for (const piece of card) back.addCard(piece);
    if (!first) for (const piece of image) back.addImage(piece);
    return back.end();
  };
  const sum = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

  test('however both are cut: the sums of OpenSSL, and the first byte that is another', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 300 }),
        fc.uint8Array({ maxLength: 40 }),
        fc.array(fc.nat(300), { maxLength: 6 }),
        fc.array(fc.nat(300), { maxLength: 6 }),
        fc.boolean(),
        fc.option(fc.nat(299)),
        (image, behind, a, b, first, wrong) => {
          const card = Uint8Array.from([...image, ...behind]);
          const at = wrong === null ? null : wrong % image.length;
          if (at !== null) card[at] = (card[at] ?? 0) ^ 1;
          expect(held(cut(image, a), cut(card, b), first)).toEqual({
            ...{ bytes: image.length, imageSha256: sum(image), cardSha256: sum(card.subarray(0, image.length)) },
            ...{ same: at === null, firstOtherAt: at },
          });
        },
      ),
    );
  });

  test('a card that ends before the image does', () => {
    const image = Uint8Array.from([1, 2, 3, 4]);
    expect(held([image], [image.subarray(0, 3)], true)).toMatchObject({ same: false, firstOtherAt: 3 });
    expect(held([image], [], true)).toMatchObject({ same: false, firstOtherAt: 0 });
    expect(held([image], [image], false)).toMatchObject({ same: true });
    // told that the card ends, it says the same, and holds no more of the image
    const back = new ReadBack();
    back.addImage(image.subarray(0, 2));
    back.addCard(image.subarray(0, 1));
    back.endCard();
    back.addImage(image.subarray(2));
    expect(back.end()).toMatchObject({
      same: false,
      firstOtherAt: 1,
      bytes: 4,
      imageSha256: sum(image),
      cardSha256: sum(image.subarray(0, 1)),
    });
    const level = new ReadBack();
    level.addImage(image);
    level.addCard(image);
    level.endCard();
    expect(level.end()).toMatchObject({ same: true, firstOtherAt: null });
  });
});

describe('where a place is', () => {
  test.each([
    ['Europe/London', ['GB']],
    ['Europe/Oslo', ['NO']],
    ['Asia/Kolkata', ['IN']],
    ['America/New_York', ['US']],
    ['UTC', []],
    ['Nowhere/Here', []],
    // older names of zones
    ['Asia/Calcutta', ['IN']],
    ['US/Eastern', ['US']],
  ])('%s', (zone, countries) => expect(countriesOf(zone)).toEqual(expect.arrayContaining(countries)));

  // [IANA time zone database: zone.tab, where the machine has it]
  const table = '/usr/share/zoneinfo/zone.tab';
  (existsSync(table) ? test : test.skip)('as the table of zones by country says', () => {
    const rows = readFileSync(table, 'utf8')
      .split('\n')
      .filter((row) => row !== '' && !row.startsWith('#'))
      .map((row) => row.split('\t'));
    expect(rows.length).toBeGreaterThan(400);
    // releases of the table differ by a zone or two
    const wrong = rows.filter(([country = '', , zone = '']) => !countriesOf(zone).includes(country));
    expect(wrong.length).toBeLessThan(4);
  });

  // [X Keyboard Extension configuration database, where the machine has it]
  const layouts = '/usr/share/X11/xkb/rules/evdev.xml';
  (existsSync(layouts) ? test : test.skip)('as the table of keyboard layouts says', () => {
    const found = new Map<string, string[]>();
    for (const [, name = '', rest = ''] of readFileSync(layouts, 'utf8').matchAll(
      /<layout>\s*<configItem[^>]*>\s*<name>(\w+)<\/name>([\s\S]*?)<\/configItem>/g,
    )) {
      const countries = [...rest.matchAll(/<iso3166Id>(\w+)<\/iso3166Id>/g)].map(([, id = '']) => id);
      // the base rules of 2022 have Armenia's layout in Albania
      if (countries.length) found.set(name, name === 'am' ? ['AM'] : countries);
    }
    expect(found.size).toBeGreaterThan(80);
    for (const [name, countries] of found) expect([name, countriesOfLayout(name)]).toEqual([name, countries]);
  });

  test('layouts of a country, and how far a zone is ahead', () => {
    expect([layoutsOf('GB'), layoutsOf('NZ'), layoutsOf('US'), layoutsOf('EG'), layoutsOf('LU')]).toEqual([
      ['gb'],
      ['mao'],
      ['us', 'latam'],
      ['ara'],
      [],
    ]);
    expect(countriesOfLayout('dvorak')).toBeNull();
    const winter = Date.UTC(2026, 0, 15);
    const summer = Date.UTC(2026, 6, 15);
    expect(
      ['UTC', 'Europe/London', 'Asia/Kolkata', 'America/St_Johns'].map((zone) => [
        offsetMinutes(zone, winter),
        offsetMinutes(zone, summer),
      ]),
    ).toEqual([
      [0, 0],
      [0, 60],
      [330, 330],
      [-210, -150],
    ]);
    expect([sameZone('Asia/Calcutta', 'Asia/Kolkata'), sameZone('Europe/London', 'Europe/Dublin'), sameZone('x', 'x')]).toEqual([
      true,
      false,
      false,
    ]);
  });
});

describe('the answers of a first start', () => {
  const answers: FirstBoot = { zone: 'Europe/London', locale: 'en-GB', keyboard: 'gb', mode: 'client', password: 'per device' };
  const winter = Date.UTC(2026, 0, 15);
  const check = (more: Partial<FirstBoot>, timeZone = 'Europe/London', deviceClass = 'thin-client') =>
    checkFirstBoot({ ...answers, ...more }, { timeZone }, { deviceClass }, winter).map(
      ({ key, text, right, sure }) => `${key}: ${text} → ${right}${sure ? '' : ' ?'}`,
    );

  test('what agrees with the place is not told of', () => {
    expect(check({})).toEqual([]);
    expect(check({ locale: 'en_GB.UTF-8' })).toEqual([]);
    expect(check({ zone: 'Asia/Calcutta', locale: 'en-IN', keyboard: 'in' }, 'Asia/Kolkata')).toEqual([]);
    expect(check({ mode: 'kiosk' }, 'Europe/London', 'kiosk')).toEqual([]);
  });

  test.each<[Partial<FirstBoot>, string[]]>([
    [{ zone: 'Europe/Oslo' }, ['zone: the place is in Europe/London: its clock would be 1 h fast → Europe/London']],
    [{ zone: 'America/St_Johns' }, ['zone: the place is in Europe/London: its clock would be 3.5 h slow → Europe/London']],
    [
      { zone: 'UTC' },
      ['zone: the place is in Europe/London: the clocks agree now, and may not when one of them changes → Europe/London ?'],
    ],
    [{ zone: 'Europe/Londn' }, ['zone: “Europe/Londn” is no time zone → Europe/London']],
    [{ locale: 'en' }, ['locale: “en” names no country: dates and paper would be guessed → en-GB']],
    [{ locale: '!' }, ['locale: “!” is no locale → a language and a country, such as en-GB']],
    [{ keyboard: 'us' }, ['keyboard: the layout us is that of US, not of GB → gb']],
    [{ keyboard: 'qwerty' }, ['keyboard: “qwerty” is in no table of layouts → gb ?']],
    [{ mode: 'kiosk' }, ['mode: kiosk is no mode for a thin-client → client']],
    [{ password: 'hash' }, ['password: every device gets the same password → per device ?']],
  ])('%j', (more, wanted) => expect(check(more)).toEqual(wanted));

  test('a locale of another country is told, and the keyboard is held against it', () => {
    expect(check({ locale: 'nb-NO', keyboard: 'no' })).toEqual([
      expect.stringMatching(/^locale: NO is another country than that of Europe\/London \(GB.*\) → nb-GB \?$/),
    ]);
  });

  test('written and read again it is the same', () => {
    expect(readFirstBoot(firstBootText(answers))).toEqual({ ok: true, value: answers });
    const hashed: FirstBoot = {
      ...answers,
      password: 'hash',
      hash: '$6$saltsalt$qFmFH.bQmmtXzyBY0s9v7Oicd2z4XSIecDzlB5KiA2/jctKu9YterLp8wwnSq.qc.eoxqOmSuNp2xS0ktL3nh/',
    };
    expect(readFirstBoot(firstBootText(hashed))).toEqual({ ok: true, value: hashed });
  });

  test.each<[string, string]>([
    ['zone = UTC\n', 'line 1: “zone” stands before any section'],
    ['[other]\n', 'line 1: begins the section [other]'],
    ['[first-boot]\nzone UTC\n', 'line 2: has no “=”: “zone UTC”'],
    ['[first-boot]\ncolour = red\n', 'line 2: no answer is called “colour”'],
    ['[first-boot]\nzone = UTC\nzone = UTC\n', 'line 3: “zone” stands twice'],
    ['[first-boot]\nzone = UTC\n', 'the file: has no answer for “locale”'],
    [firstBootText(answers).replace('client', 'party'), 'line 5: “party” is no mode'],
    // what stands there may be a password, and is not said again
    [firstBootText(answers).replace('per device', 'hunter2'), 'line 6: is no rule for a password'],
    [firstBootText({ ...answers, password: 'hash' }), 'the file: has no hash as crypt(5) writes it'],
    [firstBootText({ ...answers, password: 'hash', hash: 'hunter2' }), 'line 7: has no hash as crypt(5) writes it'],
  ])('%j is refused', (text, says) => {
    const read = readFirstBoot(text);
    expect(read.ok ? '' : `${read.fault.place}: ${read.fault.problem}`).toBe(says);
    expect(JSON.stringify(read)).not.toContain('hunter2');
  });
});
