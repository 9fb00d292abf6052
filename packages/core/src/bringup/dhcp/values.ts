import { ipv4At } from '../../evidence/capture/index.js';
import { utf8Text } from '../../units/text.js';
import { bigEndian } from '../../evidence/capture/bytes.js';
import { messageTypes, optionType, type OptionType } from './options.js';

/** What an option says, as text, and what is wrong with how it says it. */
export interface OptionValue {
  value: string;
  problems: string[];
}
const said = (value: string, ...problems: string[]): OptionValue => ({ value, problems });

/** Bytes as they are mostly written: two digits each, with colons between. */
export const hexText = (bytes: Uint8Array): string => [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join(':');

const lengths: Partial<Record<OptionType, { each: number; one: boolean; what: string }>> = {
  address: { each: 4, one: true, what: 'an address is 4 bytes' },
  addresses: { each: 4, one: false, what: 'addresses are 4 bytes each' },
  'address pairs': { each: 8, one: false, what: 'pairs of addresses are 8 bytes each' },
  u8: { each: 1, one: true, what: 'it is 1 byte' },
  u16: { each: 2, one: true, what: 'it is 2 bytes' },
  u32: { each: 4, one: true, what: 'it is 4 bytes' },
  i32: { each: 4, one: true, what: 'it is 4 bytes' },
  'yes or no': { each: 1, one: true, what: 'it is 1 byte' },
  'message type': { each: 1, one: true, what: 'it is 1 byte' },
};

/** Of such no content is wrong once the length is right. */
const anyContent = new Set<OptionType | null>(['address', 'addresses', 'address pairs', 'u8', 'u16', 'u32', 'i32', 'bytes']);

/** What is wrong with how an option says it; the same as of its value, without making that. */
export function optionProblems(code: number, bytes: Uint8Array): readonly string[] {
  const type = optionType(code);
  const length = type && lengths[type];
  const fits = !length || (length.one ? bytes.length === length.each : bytes.length > 0 && bytes.length % length.each === 0);
  return fits && anyContent.has(type) && bytes.length > 0 ? [] : optionValue(code, bytes).problems;
}

/** What the bytes of an option say. Where they do not fit what it holds they are shown as they are. */
export function optionValue(code: number, bytes: Uint8Array): OptionValue {
  const type = optionType(code);
  const length = type && lengths[type];
  if (length && (length.one ? bytes.length !== length.each : bytes.length === 0 || bytes.length % length.each !== 0)) {
    const text = textOf(bytes);
    return said(
      text?.value ?? hexText(bytes),
      `has ${bytes.length} byte${bytes.length === 1 ? '' : 's'}; ${length.what}${text && /address/.test(type) ? `. It holds the text “${text.value}”` : ''}`,
    );
  }
  switch (type) {
    case 'address':
      return said(ipv4At(bytes, 0));
    case 'addresses':
      return said(each(bytes, 4, (at) => ipv4At(bytes, at)));
    case 'address pairs':
      return said(each(bytes, 8, (at) => `${ipv4At(bytes, at)} ${ipv4At(bytes, at + 4)}`));
    case 'u8':
      return said(String(bytes[0]));
    case 'u16':
      return said(String(bigEndian.u16(bytes, 0)));
    case 'u32':
      return said(String(bigEndian.u32(bytes, 0)));
    case 'i32':
      return said(String(bigEndian.u32(bytes, 0) | 0));
    case 'yes or no':
      return said(
        bytes[0] === 1 ? 'yes' : bytes[0] === 0 ? 'no' : String(bytes[0]),
        ...((bytes[0] as number) > 1 ? ['is neither 0 nor 1'] : []),
      );
    case 'message type':
      return said(
        messageTypes[bytes[0] as number] || String(bytes[0]),
        ...(messageTypes[bytes[0] as number] ? [] : [`is no type of message: ${bytes[0]}`]),
      );
    case 'codes':
      return said([...bytes].join(', '), ...emptied(bytes));
    case 'identifier':
      return said(hexText(bytes), ...(bytes.length < 2 ? [`has ${bytes.length} byte${bytes.length === 1 ? '' : 's'}; it needs 2`] : []));
    case 'text':
      return text(bytes);
    case 'texts':
      return texts(bytes);
    case 'names':
      return names(bytes);
    case 'routes':
      return routes(bytes);
    case 'within':
      return within(bytes);
    case 'bytes':
      return said(hexText(bytes));
    case null:
      return own(bytes);
  }
}

/** Lists hold one at least [RFC 2132 8.4 and 9.8, RFC 3046, 3397, 3442]. */
const emptied = (bytes: Uint8Array): string[] => (bytes.length === 0 ? ['is empty'] : []);
const each = (bytes: Uint8Array, size: number, read: (at: number) => string): string =>
  Array.from({ length: Math.floor(bytes.length / size) }, (_, i) => read(i * size)).join(', ');

/** Bytes that can be read as text, and whether a NUL ends them; null where they cannot. */
function textOf(bytes: Uint8Array): { value: string; nul: boolean } | null {
  const nul = bytes.length > 1 && bytes[bytes.length - 1] === 0;
  const kept = nul ? bytes.subarray(0, bytes.length - 1) : bytes;
  if (kept.length === 0) return null;
  // letters of ASCII, and UTF-8 for those names that have others
  for (const byte of kept) if (byte < 0x20 || byte === 0x7f) return null;
  const value = utf8Text(kept);
  return value === null ? null : { value, nul };
}
const endsInNul = 'ends in a NUL byte, which some clients take for a part of the text';

function text(bytes: Uint8Array): OptionValue {
  const read = textOf(bytes);
  if (read) return said(read.value, ...(read.nul ? [endsInNul] : []));
  if (bytes.length === 0) return said('', 'is empty');
  const address = bytes.length === 4 ? `. It holds the address ${ipv4At(bytes, 0)}` : '';
  return said(hexText(bytes), `holds bytes that are no text${address}`);
}

/** A fleet's own number: text, an address of four bytes, or bytes. Which it should be, the device class says. */
function own(bytes: Uint8Array): OptionValue {
  const read = textOf(bytes);
  if (read) return said(read.value, ...(read.nul ? [endsInNul] : []));
  return said(bytes.length === 4 ? ipv4At(bytes, 0) : hexText(bytes));
}

/** Texts with their lengths before them [RFC 3004]; many clients send one text without. */
function texts(bytes: Uint8Array): OptionValue {
  const parts: string[] = [];
  let at = 0;
  while (at < bytes.length) {
    const length = bytes[at] as number;
    const part = textOf(bytes.subarray(at + 1, at + 1 + length));
    if (length === 0 || at + 1 + length > bytes.length || !part) break;
    parts.push(part.value);
    at += 1 + length;
  }
  if (bytes.length > 0 && at === bytes.length) return said(parts.join(', '));
  const whole = textOf(bytes);
  return said(whole?.value ?? hexText(bytes), 'does not say how long its texts are');
}

/** Names of domains with their pieces counted, later ones pointing back to earlier ones [RFC 1035 4.1.4, RFC 3397]. */
function names(bytes: Uint8Array): OptionValue {
  const found: string[] = [];
  let at = 0;
  while (at < bytes.length) {
    const labels: string[] = [];
    let here = at;
    let after = -1;
    let length = 0;
    for (;;) {
      const size = bytes[here];
      if (size === undefined) return said(found.join(', '), `ends within a name, after ${here} bytes`);
      if (size >= 0xc0) {
        const low = bytes[here + 1];
        if (low === undefined) return said(found.join(', '), `ends within a name, after ${here + 1} bytes`);
        const to = ((size & 0x3f) << 8) | low;
        if (after < 0) after = here + 2;
        // only back, so that it ends
        if (to >= here) return said(found.join(', '), `points to byte ${to} of itself, which is not before byte ${here}`);
        here = to;
        continue;
      }
      if (size > 63) return said(found.join(', '), `has a piece of a name of ${size} bytes; 63 are the most`);
      if (size === 0) break;
      const label = textOf(bytes.subarray(here + 1, here + 1 + size));
      if (here + 1 + size > bytes.length || !label)
        return said(found.join(', '), `has a piece of a name that is no text, after ${here} bytes`);
      length += size + 1;
      if (length > 254) return said(found.join(', '), 'has a name of more than 253 letters');
      labels.push(label.value);
      here += 1 + size;
    }
    found.push(labels.join('.') || '.');
    at = after < 0 ? here + 1 : after;
  }
  return said(found.join(', '), ...emptied(bytes));
}

/** Routes: bits of the prefix, as many of its bytes as those fill, and the router [RFC 3442]. */
function routes(bytes: Uint8Array): OptionValue {
  const found: string[] = [];
  for (let at = 0; at < bytes.length;) {
    const bits = bytes[at] as number;
    const size = Math.ceil(bits / 8);
    if (bits > 32) return said(found.join(', '), `has a prefix of ${bits} bits; 32 are the most`);
    if (at + 1 + size + 4 > bytes.length) return said(found.join(', '), `ends within a route, after ${bytes.length} bytes`);
    const network = [0, 1, 2, 3].map((i) => (i < size ? (bytes[at + 1 + i] as number) : 0)).join('.');
    found.push(`${network}/${bits} via ${ipv4At(bytes, at + 1 + size)}`);
    at += 5 + size;
  }
  return said(found.join(', '), ...emptied(bytes));
}

/** Options within an option [RFC 2132 8.4, RFC 3046]; what does not read so is shown as it is. */
function within(bytes: Uint8Array): OptionValue {
  const found: string[] = [];
  for (let at = 0; at < bytes.length;) {
    const code = bytes[at] as number;
    if (code === 255 || code === 0) {
      at++;
      continue;
    }
    const length = bytes[at + 1];
    if (length === undefined || at + 2 + length > bytes.length) return said(textOf(bytes)?.value ?? hexText(bytes));
    const part = bytes.subarray(at + 2, at + 2 + length);
    found.push(`${code}: ${textOf(part)?.value ?? hexText(part)}`);
    at += 2 + length;
  }
  return said(found.join(', '), ...emptied(bytes));
}
