/** Bytes as text by UTF-8; null where they are no such text. Written out, since core knows nothing of the machine it runs on. */
export function utf8Text(bytes: Uint8Array): string | null {
  let text = '';
  let isPlain = true;
  for (const byte of bytes) {
    if (byte > 0x7f) {
      isPlain = false;
      break;
    }
    text += String.fromCharCode(byte);
  }
  if (isPlain) return text;
  try {
    return decodeURIComponent([...bytes].map((byte) => `%${byte.toString(16).padStart(2, '0')}`).join(''));
  } catch {
    return null;
  }
}

/** Bytes as text, a letter a byte; nothing is refused. */
export const latinText = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return text;
};

/** Text as bytes by UTF-8; half a letter becomes a mark of its place. */
export function utf8Bytes(text: string): Uint8Array {
  const escaped = encodeURIComponent(text.replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, '\ufffd'));
  const bytes: number[] = [];
  for (let at = 0; at < escaped.length; at++) {
    if (escaped[at] === '%') {
      bytes.push(Number.parseInt(escaped.slice(at + 1, at + 3), 16));
      at += 2;
    } else bytes.push(escaped.charCodeAt(at));
  }
  return Uint8Array.from(bytes);
}
