import type { CarryAs, PeripheralKind } from '@underpass/contracts';
import type { ClassTriple, UsbDevice } from './device.js';

/** How something is carried: as products of many makers name it, and the session's own input for keys and pointer. */
export type CarriedAs = CarryAs | 'session input' | 'not allowed' | 'split';
/** What a function is, how it is best carried, and why [class codes: USB-IF defined class codes; carrying: common practice, no source]. */
export interface FunctionSort {
  name: string;
  carriedAs: Exclude<CarriedAs, 'split' | 'not allowed'>;
  why: string;
  kind?: PeripheralKind;
  /** Questions and answers of one job, where it is chatty: a page, a sign-in; from memory, assumed. */
  exchanges?: number;
  /** Most that it bears of delay there and back, ms; common practice, no source. */
  bearsMs?: number;
}
/** A function of a device, with its codes. */
export interface UsbFunction extends ClassTriple {
  name: string;
}

const raw = 'no channel exists for it';
const sorts: readonly (readonly [code: string, FunctionSort])[] = [
  [
    '01',
    {
      name: 'audio',
      carriedAs: 'channel',
      kind: 'headset',
      why: 'the sound channel carries it; raw it would want its full rate both ways, and break above about 20 ms of jitter',
    },
  ],
  [
    '03/01/01',
    { name: 'keyboard', carriedAs: 'session input', why: 'the session’s own input; raw it would be taken from the sign-in of the device' },
  ],
  [
    '03/01/02',
    { name: 'pointer', carriedAs: 'session input', why: 'the session’s own input; raw it would be taken from the sign-in of the device' },
  ],
  ['03', { name: 'controls', carriedAs: 'raw USB', why: raw, bearsMs: 100 }],
  ['06', { name: 'still image', carriedAs: 'raw USB', why: raw, kind: 'scanner', exchanges: 400, bearsMs: 200 }],
  [
    '07',
    {
      name: 'printer',
      carriedAs: 'channel',
      kind: 'printer',
      why: 'the print channel carries it; raw only where the driver must see the device, as with labels',
    },
  ],
  [
    '08',
    {
      name: 'storage',
      carriedAs: 'channel',
      kind: 'storage',
      why: 'the drive channel carries it, as the settings allow; raw only for sticks that need a program of their own',
    },
  ],
  ['09', { name: 'hub', carriedAs: 'local only', why: 'a hub is never carried, only what is plugged in at it' }],
  ['02', { name: 'communications', carriedAs: 'raw USB', why: raw, bearsMs: 200 }],
  ['0a', { name: 'communications data', carriedAs: 'raw USB', why: raw, bearsMs: 200 }],
  [
    '0b',
    {
      name: 'card reader',
      carriedAs: 'channel',
      kind: 'card-reader',
      exchanges: 40,
      why: 'the smart-card channel carries it, which is there before the session is',
    },
  ],
  [
    '0e',
    {
      name: 'camera',
      carriedAs: 'channel',
      kind: 'camera',
      why: 'the camera channel carries it coded, or the call’s own media do; raw no line does',
    },
  ],
  ['10', { name: 'audio and video', carriedAs: 'channel', kind: 'camera', why: 'the camera channel carries it coded' }],
  ['e0', { name: 'wireless', carriedAs: 'local only', why: 'radio belongs to the device it is in' }],
  ['ff', { name: 'of its maker’s own', carriedAs: 'raw USB', why: raw, kind: 'scanner', exchanges: 400, bearsMs: 200 }],
];
const other: FunctionSort = { name: 'other', carriedAs: 'raw USB', why: raw };

/** Codes with strokes between them. @example 01/02/00 */
export const written = ({ class: code, subclass, protocol }: ClassTriple): string => `${code}/${subclass}/${protocol}`;
/** The codes of a written triple; what is left out is 00. */
export function tripleOf(text: string): ClassTriple {
  const [code = '00', subclass = '00', protocol = '00'] = text.toLowerCase().split('/');
  return { class: code, subclass, protocol };
}
/** Whether codes begin with those asked for: 08 stands for all of 08/06/50. */
export const codeFits = (asked: string, has: string): boolean => has === asked || has.startsWith(`${asked}/`);

/** What a function is by its codes: the longest that is known counts. */
export function sortOf(codes: ClassTriple): FunctionSort {
  const text = written(codes);
  return sorts.find(([code]) => codeFits(code, text))?.[1] ?? other;
}

/** Classes whose interfaces belong together though nothing says so: control and streams of one sound or picture, line and its data. */
const together: Readonly<Record<string, string>> = { '01': '01', '0e': '0e', '02': '02', '0a': '02' };

/** Functions of a device by its interfaces, each once: those that are said to be one, and those that always are. */
export function functionsOf(device: Pick<UsbDevice, 'interfaces' | 'associations'> & ClassTriple): UsbFunction[] {
  const found: UsbFunction[] = [];
  const add = (codes: ClassTriple) =>
    found.push({ class: codes.class, subclass: codes.subclass, protocol: codes.protocol, name: sortOf(codes).name });
  const seen = new Set<number>();
  let before = '';
  for (const each of device.interfaces) {
    if (seen.has(each.number)) continue;
    const association = device.associations.find(({ first, count }) => each.number >= first && each.number < first + count);
    if (association) {
      for (let i = 0; i < association.count; i++) seen.add(association.first + i);
      add(association.class === '00' ? each : association);
      before = '';
      continue;
    }
    seen.add(each.number);
    const group = together[each.class] ?? '';
    if (group === '' || group !== before) add(each);
    before = group;
  }
  return found.length > 0
    ? found
    : [{ class: device.class, subclass: device.subclass, protocol: device.protocol, name: sortOf(device).name }];
}

/** How a whole device is best carried: as its functions are; those that a headset or camera has for its buttons stay at the desk. */
export function bestFor(functions: readonly ClassTriple[]): { carriedAs: CarriedAs; why: string } {
  const all = functions.map((codes) => ({ codes, ...sortOf(codes) }));
  const isMedia = all.some(({ kind }) => kind === 'headset' || kind === 'camera');
  const parts = all.map((each) =>
    isMedia && each.codes.class === '03' ? { ...each, carriedAs: 'local only' as const, why: 'its buttons stay at the desk' } : each,
  );
  const lead = parts.find(({ carriedAs }) => carriedAs === 'channel') ?? parts.find(({ carriedAs }) => carriedAs === 'raw USB') ?? parts[0];
  if (!lead) return { carriedAs: 'local only', why: 'it has no function' };
  const isMixed = lead.carriedAs === 'channel' && parts.some(({ carriedAs }) => carriedAs === 'raw USB');
  return {
    carriedAs: isMixed ? 'split' : lead.carriedAs,
    why: [...new Set(parts.map(({ name, why }) => (parts.length > 1 ? `${name}: ${why}` : why)))].join('; '),
  };
}
