import { describe, expect, it } from '@jest/globals';
import { writeFolder } from '@underpass/contracts';
import { common, devices, estate, estateOf, sheetOf, targetOf, yard } from '../../test/deviceList.js';
import { guessColumns, guessKind } from './guess.js';
import { looksLike } from './looksLike.js';

describe('what columns are', () => {
  it.each([
    [['192.0.2.7', '198.51.100.3'], 'address'],
    [['256.0.2.7', '198.51.100.300'], 'version'],
    [['2001:db8::1', '2001:db8:0:0:0:0:0:2'], 'address'],
    [['2001:db8:::1'], 'name'],
    [['192.0.2.0/24', '198.51.100.0/25'], 'address range'],
    [['00:00:5e:00:53:01', '00-00-5E-00-53-AF'], 'hardware address'],
    [['2001:db8::/32', 'fd00::/8'], 'address range'],
    [['x2001:db8::/32', '2001:db8::/32x'], 'name'],
    [['0000.5e00.5301', '0000.5E00.53AF'], 'hardware address'],
    [['x00:00:5e:00:53:01'], 'name'],
    [['00:00:5e:00:53:01x'], 'name'],
    [['x0000.5e00.5301'], 'host name'],
    [['2026-1-2T03:04', '1/2/26 03:04:05.678Z', '1.2.2026 3:04+0100'], 'date'],
    [['on 2026-01-02'], 'name'],
    [['2026-01-02 or so'], 'name'],
    [['12345,6', '0.25', '-1,75'], 'number'],
    [["1'234", '12 345,67', '123.456.789,01', '1,234,567.89', '12,345'], 'number'],
    [['1920x1080', '2560 × 1440', '2x 1920x1080 @60'], 'resolution'],
    [['1920x1080', '2560 × 1440', '2x 1920x1080 @60'], 'resolution'],
    [['4.12.1', '4.12', '5'], 'version'],
    [['1', '2', '3'], 'whole number'],
    [['1', '2,5', '3'], 'number'],
    [['10 %', '20%'], 'share'],
    [['8 GB', '16 GB'], 'amount'],
    [['ja', 'nein', 'Ja'], 'yes or no'],
    [['31.12.2026', '2026-12-31'], 'date'],
    [['08:30', '7:15'], 'time'],
    [['ada@saltmarsh.example'], 'e-mail address'],
    [['gw.estuary.example'], 'host name'],
    [['cn=Ada,ou=Yard', 'CN=Bo, OU=Hall'], 'distinguished name'],
    [['SN123-456', '7KX9911B'], 'serial number'],
    [['laptop', 'laptop', 'kiosk', 'laptop', 'kiosk', 'laptop'], 'word'],
    [['Ada Ames', 'Bo Brook', 'Cy Crane'], 'name'],
    [['one; two', 'three; four'], 'text'],
    [['', ' '], 'empty'],
    // whole numbers count as what the others are
    [['1', '2', '3', '4 GB'], 'amount'],
    [['4', '4.12', '4.12.1'], 'version'],
    // four of five alike are enough, three of five are not
    [['1', '2', '3', '4', 'x y'], 'whole number'],
    [['1', '2', '3', 'x y', 'z w'], 'text'],
  ])('%j look like %s', (cells, look) => {
    expect(looksLike(cells)).toBe(look);
  });

  it('look at long nonsense as fast as at anything', () => {
    for (const cell of [':'.repeat(5000), '1.'.repeat(3000), `${'a=,'.repeat(2000)}b`, 'A1'.repeat(3000)])
      expect(looksLike([cell])).toBeDefined();
  });

  it('are found by name and content, in German as in English', () => {
    const guesses = guessColumns(sheetOf(devices), targetOf());
    expect(guesses.map(({ field }) => field)).toEqual([
      'name',
      'id',
      'deviceClass',
      'location',
      'memoryMB',
      'screens',
      'ownership',
      'platform',
      'processor',
      'clientKind',
    ]);
    expect(guesses.every(({ sure }) => sure >= 0.5 && sure <= 1)).toBe(true);
  });

  it('are found by content alone where their names say nothing, and never guessed at', () => {
    const guesses = guessColumns(sheetOf('a;b;c;d\nNorth yard;1920x1080;pinched;12\nWexcombe hall;1280x800;blue;13\n'), targetOf());
    expect(guesses.map(({ field }) => field)).toEqual(['location', 'screens', null, null]);
  });

  it('that name what is not there yet are taken by their name all the same', () => {
    expect(guessColumns(sheetOf('Gerätename;Standort\nA;Elsewhere\nB;Nowhere\n'), targetOf()).map(({ field }) => field)).toEqual([
      'name',
      'location',
    ]);
  });

  it('make the kind of the list', () => {
    const all = (['location', 'person', 'endpoint', 'group'] as const).map((kind) => targetOf(estate, kind));
    expect(guessKind(sheetOf(devices), all)?.kind).toBe('endpoint');
    expect(guessKind(sheetOf('Standort;Leitung;Download (Mbit/s);Upload (Mbit/s);Art\nWerft;Glasfaser;100;50;Werft\n'), all)?.kind).toBe(
      'location',
    );
  });

  it.each(['endpoints.csv', 'people.csv', 'locations.csv', 'groups.csv'])('of our own %s are taken for what they are', (file) => {
    const kind = { 'endpoints.csv': 'endpoint', 'people.csv': 'person', 'locations.csv': 'location', 'groups.csv': 'group' }[
      file
    ] as 'endpoint';
    const own = estateOf({
      location: [
        { ...yard, worksFrom: '08:00', worksTo: '17:00', metered: true, ownLines: false, inside: false, timeZone: 'UTC', sharedBy: 5 },
      ],
      group: [{ id: 'g', name: 'All', rank: 1, memberOf: [], publications: [] }],
      person: [{ id: 'p', name: 'Ada', kind: 'staff', location: 'yard', groups: ['g'] }],
      endpoint: [{ id: 'e', name: 'E', person: 'p', users: [], peripherals: ['headset'], alwaysOn: false, ...common }],
    });
    const guesses = guessColumns(sheetOf(writeFolder(own).get(file) as string), targetOf(own, kind));
    for (const { name, field } of guesses) expect([name, field]).toEqual([name, name]);
  });
});
