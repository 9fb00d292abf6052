import { Firmware, type FirmwareWho } from '@underpass/contracts';
import { fixed } from '../ui/figures.js';
import { bootCauses, bootSteps, type BootCause } from '@underpass/core';

/** Short words of the steps, for where there is little room. */
const short: Record<string, string> = {
  'power on': 'power',
  'link up': 'link',
  DHCP: 'address',
  'options found': 'server told',
  'configuration server reached': 'server reached',
  'configuration files fetched and merged': 'files',
  'firmware compared': 'firmware',
  'write and restart': 'written',
  'certificate store': 'certificates',
  'time set': 'time',
  'broker address known': 'broker',
  'sign-in screen': 'sign-in',
};
export const stepWords = (name: string): string => short[name] ?? name;
export const stepCount = bootSteps.length;

/** The name of a cause as it stands in a list. */
export const causeWords = (code: string): string => code.replace('wifi', 'Wi-Fi');

/** The sentence of a cause without the words of a device, as it is told of the one that looks most like another. */
export const causeSays = (code: string): string =>
  code in bootCauses ? bootCauses[code as BootCause].says.replace(/\s*[“(]?\{\w+\}[”)]?/g, ' …') : code;

/** Seconds from switching on. */
export const seconds = (ms: number): string => {
  const s = ms / 1000;
  if (s >= 600) return `${Math.round(s / 60)} min`;
  return s >= 100 || s === 0 ? `${Math.round(s)} s` : `${fixed(s, s < 10 ? 1 : 0)} s`;
};
/** The same by tenths, where several lie close together. */
export const tenths = (ms: number): string => (ms === 0 || ms >= 100_000 ? seconds(ms) : `${fixed(ms / 1000, 1)} s`);

/** How long something takes, s. */
export const lasting = (s: number): string => {
  if (s < 90) return `${Math.round(s)} s`;
  if (s < 5400) return `${Math.round(s / 60)} min`;
  const minutes = Math.round(s / 60);
  if (minutes >= 2880) return `${fixed(minutes / 1440, 1)} days`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
};

/** A size, MB. */
export const megabytes = (mb: number): string => (mb >= 1000 ? `${fixed(mb / 1000, 2)} GB` : `${fixed(mb, mb < 10 ? 1 : 0)} MB`);

const on = (n: number, text: string): string => `${n === 1 ? 'one device' : `${n} devices`} ${text}`;
/** What devices do with a file, those that matter most first. */
export const devicesWords = ({
  up,
  down,
  nothing,
  notKnown,
  passed,
  refuse,
}: FirmwareWho['devices']): { text: string; amber: boolean }[] => {
  const told = [
    { n: down, text: 'put back to it', amber: true },
    { n: refuse, text: 'of another processor, which stop', amber: true },
    { n: up, text: 'brought up to it', amber: false },
    { n: notKnown, text: 'of which nobody knows what they have', amber: false },
    { n: nothing, text: 'that have it', amber: false },
    { n: passed, text: 'offered something higher', amber: false },
  ].filter(({ n }) => n > 0);
  return told.length ? told.map(({ n, text, amber }) => ({ text: on(n, text), amber })) : [{ text: 'no device', amber: false }];
};

/** Whether a text is a release as its makers count. */
export const isRelease = (text: string): boolean => Firmware.shape.version.safeParse(text.trim()).success;
