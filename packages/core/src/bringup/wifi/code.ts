import { utf8Bytes } from '../../units/text.js';
import { bad, good, type Result } from '../../units/result.js';

/** How a network asks for a key, in the words of the code. */
export const wifiTypes = ['WPA', 'SAE', 'WEP', 'nopass'] as const;
/** One of those. */
export type WifiType = (typeof wifiTypes)[number];

/** What somebody needs to join a network. */
export interface WifiJoin {
  name: string;
  type: WifiType;
  key: string;
  hidden: boolean;
}

/** Longest name of a network, bytes [IEEE 802.11 9.4.2.2]. */
const longestName = 32;
/** Length of a pass phrase, characters [IEEE 802.11 J.4.1]. */
const [shortestKey, longestKey] = [8, 63];

/** What stands for itself behind a backslash, as readers of such codes have it (common practice, no source). */
const escaped = (text: string): string => text.replace(/[\\;,":]/g, '\\$&');
const isPlain = (text: string): boolean => [...text].every((letter) => letter >= ' ' && letter !== '\u007f');

/**
 * The text of a code by which a telephone or a device joins a network: `WIFI:T:WPA;S:name;P:key;H:true;;`.
 * @returns what is wrong with the name or the key where a network could not have them
 */
export function wifiCode({ name, type, key, hidden }: WifiJoin): Result<string> {
  const bytes = utf8Bytes(name).length;
  if (bytes === 0 || bytes > longestName) return bad('the name', `has ${bytes} bytes`, `give 1 to ${longestName} bytes`);
  if (!isPlain(name) || !isPlain(key))
    return bad(isPlain(name) ? 'the key' : 'the name', 'has letters that cannot be typed', 'leave them out');
  const length = [...key].length;
  if (type === 'nopass') {
    if (length) return bad('the key', 'is given for a network that asks for none', 'leave it out, or give another type');
  } else if (type === 'WEP') {
    if (length === 0) return bad('the key', 'is missing', 'give it, or the type nopass');
  } else if (length < shortestKey || length > longestKey)
    return bad('the key', `has ${length} characters`, `give ${shortestKey} to ${longestKey}`);
  return good(`WIFI:T:${type};S:${escaped(name)};${type === 'nopass' ? '' : `P:${escaped(key)};`}${hidden ? 'H:true;' : ''};`);
}
