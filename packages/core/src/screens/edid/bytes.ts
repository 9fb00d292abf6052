import { fromBase64 } from '../../units/index.js';
import { bad, good, type Result } from '../../units/result.js';

/** Most bytes: 256 blocks [VESA E-EDID 1.4, 2.2]. */
const longest = 256 * 128;
const header = [0, 255, 255, 255, 255, 255, 255, 0];

/** Whether bytes begin as the description of a screen does. */
export const isEdid = (bytes: Uint8Array): boolean => header.every((byte, i) => bytes[i] === byte);

/**
 * The bytes of a screen's description out of a file as people have it: as it is, as hex digits with or without white space, or in
 * base64. A dump may have other lines around the digits.
 */
export function edidBytes(file: Uint8Array): Result<Uint8Array> {
  if (file.length === 0) return bad('the file', 'is empty', 'give the description of a screen');
  if (isEdid(file)) return file.length > longest ? bad(`byte ${longest}`, 'goes on beyond 256 blocks', 'give one description') : good(file);
  if (file.length > 8 * longest) return bad('the file', 'is no description of a screen', 'give it as it is, in hex or in base64');
  let text = '';
  for (const byte of file) {
    // what has other bytes than a text has been meant as it is
    if (byte > 126 || (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13)) {
      const at = header.findIndex((wanted, i) => file[i] !== wanted);
      return bad(`byte ${at}`, `is ${file[at] ?? 'missing'}, where a description begins with 0, six times 255, 0`, 'give the whole of it');
    }
    text += String.fromCharCode(byte);
  }
  const hex = text
    .split(/\r?\n/)
    .filter((line) => /^\s*(?:[0-9a-f]{2}\s*){8,}$/i.test(line))
    .join('')
    .replace(/\s/g, '');
  const bytes = /^00f{12}00/i.test(hex) ? fromHex(hex) : fromBase64(text.replace(/\s/g, ''));
  if (bytes && isEdid(bytes)) return good(bytes.slice(0, longest));
  return bad('the file', 'is no description of a screen', 'give it as it is, in hex or in base64');
}

const fromHex = (text: string): Uint8Array =>
  Uint8Array.from({ length: Math.floor(text.length / 2) }, (_, i) => Number.parseInt(text.slice(2 * i, 2 * i + 2), 16));
