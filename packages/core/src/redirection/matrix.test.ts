import { describe, expect, test } from '@jest/globals';
import { catalogue, settingKeys, type SettingValues } from '../settings/index.js';
import { carryCells, type Carrier } from './matrix.js';

const usual = Object.fromEntries(settingKeys.map((key) => [key, catalogue[key].default])) as unknown as SettingValues;
const staff: Carrier = { guest: false, ownership: 'managed', clientKind: 'native client', platform: 'desktop' };
const all = ['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage'];

/** Each cell as "thing, way": whether it is carried, and by which setting. */
const told = (set: Record<string, unknown> = {}, who: Partial<Carrier> = {}) =>
  Object.fromEntries(
    carryCells({ ...usual, ...set } as SettingValues, { ...staff, ...who }).map(({ what, way, carried, by }) => [
      `${what}, ${way}`,
      [carried, by],
    ]),
  );

/** What staff on a managed computer carry where nothing was set: read off the catalogue’s defaults by hand. */
const asItIs = {
  'Text by the clipboard, in': [true, 'redirection.clipboard'],
  'Files by the clipboard, in': [true, 'redirection.clipboard'],
  'Files on drives and sticks, in': [false, 'redirection.devices'],
  'Text by the clipboard, out': [true, 'redirection.clipboard'],
  'Files by the clipboard, out': [true, 'redirection.clipboard'],
  'Files on drives and sticks, out': [false, 'redirection.devices'],
  'Printing, out': [true, 'redirection.printers'],
  'Pictures taken by a program, out': [true, 'security.screenshotBlock'],
  'Photographs without a name on them, out': [true, 'security.watermark'],
  'Camera, in': [true, 'redirection.devices'],
  'Microphone, in': [true, 'sound.microphone'],
  'Sound, out': [true, 'sound.play'],
  'Smart card, in': [false, 'redirection.devices'],
  'Scanner, in': [false, 'redirection.devices'],
  'Serial ports, in': [usual['redirection.serial'], 'redirection.serial'],
  'Place of the device, in': [usual['redirection.location'], 'redirection.location'],
  'Time zone of the desk, in': [usual['redirection.timeZone'], 'redirection.timeZone'],
};
/** What is otherwise than that. */
const otherwise = (set: Record<string, unknown>, who: Partial<Carrier> = {}) =>
  Object.fromEntries(
    Object.entries(told(set, who)).filter(([cell, value]) => JSON.stringify(value) !== JSON.stringify(asItIs[cell as keyof typeof asItIs])),
  );

describe('what is carried in and out', () => {
  test('by staff on a managed computer, where nothing was set', () => {
    expect(told()).toEqual(asItIs);
  });

  test('only what goes out is data that leaves, and neither sound nor what is brought in', () => {
    const leaves = carryCells(usual, staff).flatMap(({ what, way, isData }) => (isData ? [`${what}, ${way}`] : []));
    expect(leaves).toEqual([
      'Text by the clipboard, out',
      'Files by the clipboard, out',
      'Files on drives and sticks, out',
      'Printing, out',
      'Pictures taken by a program, out',
      'Photographs without a name on them, out',
    ]);
  });

  test.each<[string, Record<string, unknown>, Partial<Carrier>, Record<string, [boolean, string]>]>([
    [
      'the clipboard inwards alone',
      { 'redirection.clipboard': 'in' },
      {},
      { 'Text by the clipboard, out': [false, 'redirection.clipboard'], 'Files by the clipboard, out': [false, 'redirection.clipboard'] },
    ],
    [
      'the clipboard outwards alone',
      { 'redirection.clipboard': 'out' },
      {},
      { 'Text by the clipboard, in': [false, 'redirection.clipboard'], 'Files by the clipboard, in': [false, 'redirection.clipboard'] },
    ],
    [
      'text alone in it',
      { 'redirection.clipboardHolds': 'text only' },
      {},
      {
        'Files by the clipboard, in': [false, 'redirection.clipboardHolds'],
        'Files by the clipboard, out': [false, 'redirection.clipboardHolds'],
      },
    ],
    // what does not go at all is not kept by what it may hold
    [
      'text alone, inwards alone',
      { 'redirection.clipboard': 'in', 'redirection.clipboardHolds': 'text only' },
      {},
      {
        'Files by the clipboard, in': [false, 'redirection.clipboardHolds'],
        'Text by the clipboard, out': [false, 'redirection.clipboard'],
        'Files by the clipboard, out': [false, 'redirection.clipboard'],
      },
    ],
    [
      'every kind of device',
      { 'redirection.devices': all },
      {},
      {
        'Files on drives and sticks, in': [true, 'redirection.drives'],
        'Files on drives and sticks, out': [true, 'redirection.drives'],
        'Smart card, in': [true, 'redirection.devices'],
        'Scanner, in': [true, 'redirection.devices'],
      },
    ],
    [
      'drives to be read alone',
      { 'redirection.devices': ['headset', 'camera', 'printer', 'storage'], 'redirection.drives': 'read only' },
      {},
      { 'Files on drives and sticks, in': [true, 'redirection.drives'], 'Files on drives and sticks, out': [false, 'redirection.drives'] },
    ],
    [
      'no drives',
      { 'redirection.devices': ['headset', 'camera', 'printer', 'storage'], 'redirection.drives': 'none' },
      {},
      { 'Files on drives and sticks, in': [false, 'redirection.drives'], 'Files on drives and sticks, out': [false, 'redirection.drives'] },
    ],
    // a browser has no drives, whatever is let through
    ['drives in a browser', { 'redirection.devices': ['headset', 'camera', 'printer', 'storage'] }, { clientKind: 'browser' }, {}],
    [
      'a personal device that is limited',
      { 'redirection.devices': ['headset', 'camera', 'printer', 'storage'], 'security.personalDevices': 'limited' },
      { ownership: 'personal' },
      {
        'Files on drives and sticks, in': [false, 'security.personalDevices'],
        'Files on drives and sticks, out': [false, 'security.personalDevices'],
      },
    ],
    [
      'a managed one where personal ones are limited',
      { 'redirection.devices': ['headset', 'camera', 'printer', 'storage'], 'security.personalDevices': 'limited' },
      {},
      { 'Files on drives and sticks, in': [true, 'redirection.drives'], 'Files on drives and sticks, out': [true, 'redirection.drives'] },
    ],
    ['no printers', { 'redirection.printers': 'none' }, {}, { 'Printing, out': [false, 'redirection.printers'] }],
    ['printers not let through', { 'redirection.devices': ['headset', 'camera'] }, {}, { 'Printing, out': [false, 'redirection.devices'] }],
    ['cameras not let through', { 'redirection.devices': ['headset', 'printer'] }, {}, { 'Camera, in': [false, 'redirection.devices'] }],
    ['no camera', { 'redirection.camera': 'not' }, {}, { 'Camera, in': [false, 'redirection.camera'] }],
    [
      'a card that is not let into the session',
      { 'redirection.devices': all.filter((kind) => kind !== 'storage' && kind !== 'scanner'), 'redirection.smartCard': false },
      {},
      { 'Smart card, in': [false, 'redirection.smartCard'] },
    ],
    [
      'pictures kept',
      { 'security.screenshotBlock': true, 'security.watermark': true },
      {},
      {
        'Pictures taken by a program, out': [false, 'security.screenshotBlock'],
        'Photographs without a name on them, out': [false, 'security.watermark'],
      },
    ],
    [
      'no microphone, and sound that is not played here',
      { 'sound.microphone': false, 'sound.play': 'on the host' },
      {},
      { 'Microphone, in': [false, 'sound.microphone'], 'Sound, out': [false, 'sound.play'] },
    ],
  ])('%s', (_, set, who, wanted) => {
    expect(otherwise(set, who)).toEqual(wanted);
  });

  test.each<[string, Partial<Carrier>, string[], string[]]>([
    [
      'a guest of whom nothing leaves',
      { guest: true },
      ['nothing leaves'],
      ['Text by the clipboard, out', 'Files by the clipboard, out', 'Files on drives and sticks, out', 'Printing, out'],
    ],
    [
      'a guest who only looks',
      { guest: true },
      ['only look'],
      [
        'Text by the clipboard, in',
        'Files by the clipboard, in',
        'Files on drives and sticks, in',
        'Text by the clipboard, out',
        'Files by the clipboard, out',
        'Files on drives and sticks, out',
        'Printing, out',
      ],
    ],
    ['a guest as everybody', { guest: true }, ['as everybody'], []],
    ['staff, whatever holds for guests', {}, ['nothing leaves', 'only look'], []],
  ])('%s', (_, who, guests, kept) => {
    for (const each of guests) {
      const cells = told({ 'security.guests': each, 'redirection.devices': all }, who);
      const by = Object.entries(cells).filter(([, [, setting]]) => setting === 'security.guests');
      expect(by.map(([cell]) => cell)).toEqual(kept);
      expect(by.every(([, [carried]]) => carried === false)).toBe(true);
    }
  });

  test('what a client does not follow holds as if it were not set', () => {
    const closed = { 'redirection.serial': !usual['redirection.serial'], 'security.screenshotBlock': true };
    expect(otherwise(closed, { clientKind: 'browser' })).toEqual({});
    expect(Object.keys(otherwise(closed)).sort()).toEqual(['Pictures taken by a program, out', 'Serial ports, in']);
    const open = { 'redirection.location': !usual['redirection.location'], 'redirection.timeZone': !usual['redirection.timeZone'] };
    expect(otherwise(open)).toEqual({
      'Place of the device, in': [!usual['redirection.location'], 'redirection.location'],
      'Time zone of the desk, in': [!usual['redirection.timeZone'], 'redirection.timeZone'],
    });
  });
});
