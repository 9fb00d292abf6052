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
