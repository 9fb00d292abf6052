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

test('what a page may say is plugged in is bounded in its form', () => {
  for (const good of plugged) expect(PluggedIn.safeParse(good).success).toBe(true);
  for (const bad of ['', 'Camera', 'usb f1a5', 'usb f1a5:0101 01/01', 'hid f1a5:0101 01/01/00', 'usb F1A5:0101', 'camera '])
    expect([bad, PluggedIn.safeParse(bad).success]).toEqual([bad, false]);
});
