const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/**
 * Bytes of base64; null where a text is none.
 * @example fromBase64('Zm9v') // the bytes of "foo"
 * @source RFC 4648 section 4
 */
export function fromBase64(text: string): Uint8Array | null {
  if (!/^[A-Za-z0-9+/]*={0,2}$/.test(text)) return null;
  const bytes = new Uint8Array(Math.floor((text.replace(/=+$/, '').length * 6) / 8));
  let [bits, held, at] = [0, 0, 0];
  for (const letter of text.replace(/=+$/, '')) {
    bits = ((bits << 6) | letters.indexOf(letter)) & 0xffffff;
    held += 6;
    if (held < 8) continue;
    held -= 8;
    bytes[at++] = (bits >> held) & 0xff;
  }
  return bytes;
}
