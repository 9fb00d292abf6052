import { expect, test } from '@jest/globals';
import { PluggedIn, type Peripheral } from '@underpass/contracts';
import { seenDevices, seenText } from './index.js';

const plugged = [
  'camera',
  'microphone',
  'microphone',
  'usb f1a5:0101 01/01/00 03/00/00',
  'hid f1a5:0101',
  'hid f1b0:3d01',
  'usb f1d0:0801',
];

test('what a field check saw, counted', () => {
  expect(seenText(plugged)).toBe('1 camera, 2 microphones, 4 devices by code');
  expect(seenText(['speaker', 'usb f1d0:0801'])).toBe('1 speaker, 1 device by code');
  expect(seenText([])).toBe('');
});

test('what was let be seen becomes a device of the endpoint, once, unless the estate names it', () => {
  const of = (known: Peripheral[]) => seenDevices(plugged, 'E1', known).map(({ vid, pid, interfaces }) => [`${vid}:${pid}`, interfaces]);
  expect(of([])).toEqual([
    ['f1a5:0101', ['01/01/00', '03/00/00']],
    ['f1b0:3d01', ['03/00/00']],
    ['f1d0:0801', []],
  ]);
  expect(of([{ id: 'D', endpoint: 'E1', vid: 'f1a5', pid: '0101', class: '00', interfaces: [] }]).map(([code]) => code)).toEqual([
    'f1b0:3d01',
    'f1d0:0801',
  ]);
});

test('what is seen is a whole device of that endpoint, by both of its numbers, and what is said otherwise is none', () => {
  const known = (vid: string, pid: string): Peripheral[] => [{ id: 'D', endpoint: 'E1', vid, pid, class: '00', interfaces: [] }];
  const seen = (text: string, others: Peripheral[] = []) => seenDevices([text], 'E1', others);
  expect(seen('usb f1d0:0801 08/06/50')).toEqual([
    {
      id: 'seen-f1d0-0801',
      name: 'Seen by the field check',
      endpoint: 'E1',
      vid: 'f1d0',
      pid: '0801',
      class: '00',
      interfaces: ['08/06/50'],
    },
  ]);
  // another of the same maker, and the same number of another maker, are others
  expect(seen('usb f1d0:0801', known('f1d0', '0802'))).toHaveLength(1);
  expect(seen('usb f1d0:0801', known('f1d1', '0801'))).toHaveLength(1);
  expect(seen('usb f1d0:0801', known('f1d0', '0801'))).toHaveLength(0);
  for (const other of ['camera', 'xusb f1d0:0801', 'usb f1d0:0801 08', 'usb f1d0:08011']) expect([other, seen(other)]).toEqual([other, []]);
  // what the list of its codes says stands, whichever came first
  for (const both of [
    ['hid f1d0:0801', 'usb f1d0:0801 01/01/00'],
    ['usb f1d0:0801 01/01/00', 'hid f1d0:0801'],
  ])
    expect(seenDevices(both, 'E1', []).map(({ interfaces }) => interfaces)).toEqual([['01/01/00']]);
});

test('what a page may say is plugged in is bounded in its form', () => {
  for (const good of plugged) expect(PluggedIn.safeParse(good).success).toBe(true);
  for (const bad of ['', 'Camera', 'usb f1a5', 'usb f1a5:0101 01/01', 'hid f1a5:0101 01/01/00', 'usb F1A5:0101', 'camera '])
    expect([bad, PluggedIn.safeParse(bad).success]).toEqual([bad, false]);
});
