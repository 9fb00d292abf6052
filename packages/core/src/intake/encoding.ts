/** How the bytes of a text stand for its characters. */
export type TextEncoding = 'utf-8' | 'utf-16' | 'windows-1252';

/** The part of the platform's decoder [WHATWG Encoding] that is used: it is there in Node and in browsers. */
declare class TextDecoder {
  constructor(label: string, options: { fatal: boolean; ignoreBOM?: boolean });
  decode(bytes: Uint8Array): string;
}

/**
 * Characters of the bytes 0x80 to 0x9f; five of them have none and stay what they are.
 * The decoder of some versions of Node takes them for those of ISO 8859-1, so they stand here.
 * @source WHATWG Encoding, index-windows-1252
 */
const high = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

function readWindows1252(bytes: Uint8Array): string {
  let text = '';
  // in pieces: a call takes no more arguments than the stack holds
  for (let from = 0; from < bytes.length; from += 8192)
    text += String.fromCharCode(
      ...Array.from(bytes.subarray(from, from + 8192), (byte) => (byte >= 0x80 && byte < 0xa0 ? high.charCodeAt(byte - 0x80) : byte)),
    );
  return text;
}

function utf8(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}

/** Of UTF-16 without a mark: every other byte of plain letters is nought, and it is the same one of each pair. */
function pairsOf(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  const looked = Math.min(bytes.length - (bytes.length % 2), 4096);
  if (looked < 4) return null;
  let [even, odd] = [0, 0];
  for (let i = 0; i < looked; i += 2) {
    if (bytes[i] === 0) even++;
    if (bytes[i + 1] === 0) odd++;
  }
  const pairs = looked / 2;
  if (odd > pairs * 0.4 && even < pairs * 0.05) return 'utf-16le';
  if (even > pairs * 0.4 && odd < pairs * 0.05) return 'utf-16be';
  return null;
}

/**
 * Text of a file, and the encoding it was found to be in by what it holds: its mark, pairs of bytes, what is valid UTF-8; what is
 * neither is Windows-1252, in which every byte stands for something.
 * @param bytes of the whole file
 * @source marks: Unicode 23.8; windows-1252: WHATWG Encoding
 */
export function readText(bytes: Uint8Array): { encoding: TextEncoding; text: string } {
  const [a, b] = bytes;
  const pairs = a === 0xff && b === 0xfe ? 'utf-16le' : a === 0xfe && b === 0xff ? 'utf-16be' : pairsOf(bytes);
  // half a pair of a surrogate is told later, at its cell
  if (pairs) return { encoding: 'utf-16', text: new TextDecoder(pairs, { fatal: false }).decode(bytes) };
  const text = utf8(bytes);
  return text === null ? { encoding: 'windows-1252', text: readWindows1252(bytes) } : { encoding: 'utf-8', text };
}
