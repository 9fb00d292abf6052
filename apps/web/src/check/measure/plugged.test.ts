import { afterEach, expect, test } from '@jest/globals';
import { PluggedIn } from '@underpass/contracts';
import { granted, measurePlugged } from './plugged.js';

const before = Object.getOwnPropertyDescriptor(globalThis, 'navigator');
const browser = (more: object) => Object.defineProperty(globalThis, 'navigator', { value: more, configurable: true });
afterEach(() => {
  if (before) Object.defineProperty(globalThis, 'navigator', before);
  else Reflect.deleteProperty(globalThis, 'navigator');
});

const headset = {
  ...{ vendorId: 0xf1a5, productId: 0x0103 },
  configurations: [
    { interfaces: [{ alternates: [{ interfaceClass: 1, interfaceSubclass: 1, interfaceProtocol: 0 }] }, { alternates: [] }] },
  ],
};

test('a device by its codes, in the form that is taken', () => {
  expect(granted('usb', headset)).toBe('usb f1a5:0103 01/01/00');
  expect(granted('hid', { vendorId: 1, productId: 0x3d01 })).toBe('hid 0001:3d01');
  for (const text of [granted('usb', headset), granted('hid', headset)]) expect(PluggedIn.safeParse(text).success).toBe(true);
});

test('what the browser tells without asking; what it refuses is left out, and of nothing there is nothing', async () => {
  const fails = () => Promise.reject(new Error('not allowed'));
  browser({
    mediaDevices: { enumerateDevices: () => Promise.resolve([{ kind: 'videoinput' }, { kind: 'audioinput' }, { kind: 'other' }]) },
    usb: { getDevices: () => Promise.resolve([headset]) },
    hid: { getDevices: fails },
  });
  expect(await measurePlugged()).toEqual(['camera', 'microphone', 'usb f1a5:0103 01/01/00']);
  browser({ mediaDevices: { enumerateDevices: fails } });
  expect(await measurePlugged()).toBeUndefined();
  browser({});
  expect(await measurePlugged()).toBeUndefined();
});
