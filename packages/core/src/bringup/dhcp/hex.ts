import { bad, good, type Result } from '../../units/result.js';

/** Most bytes of one message that is typed or pasted. */
const longest = 65_536;

/**
 * Bytes out of hex text as people have it: digits with or without spaces, colons, commas or 0x between, or the lines of a dump with
 * where they begin before and letters behind. Several messages have an empty line between them; a line that begins with # is a comment.
 */
export function bytesFromHex(text: string): Result<Uint8Array[]> {
  const messages: number[][] = [];
  let now: number[] = [];
  const close = () => {
    if (now.length) messages.push(now);
    now = [];
  };
  for (const [i, raw] of text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .entries()) {
    const place = `line ${i + 1}`;
    if (raw.trim() === '') close();
    if (/^\s*(#|$)/.test(raw)) continue;
    const line = withoutColumns(raw);
    const digits = line.replace(/0x/gi, '').replace(/[\s:,;-]/g, '');
    const other = /[^0-9a-f]/i.exec(digits);
    if (other) return bad(place, `has “${other[0]}”, which is no digit of a hex number`, 'give pairs of 0 to 9 and a to f');
    if (digits.length % 2) return bad(place, `has ${digits.length} digits`, 'give two digits for each byte');
    for (let at = 0; at < digits.length; at += 2) now.push(Number.parseInt(digits.slice(at, at + 2), 16));
    if (now.length > longest) return bad(place, `makes a message of more than ${longest} bytes`, 'put an empty line between two messages');
  }
  close();
  return messages.length
    ? good(messages.map((bytes) => Uint8Array.from(bytes)))
    : bad('the text', 'holds no hex digits', 'give the bytes of a message in hex');
}

/** A line of a dump without where it begins and without its letters. */
function withoutColumns(line: string): string {
  const dump = /^\s*(?:0x)?[0-9a-f]{4,8}(?::\s*|\s{2,})((?:[0-9a-f]{2,4}[ ]{1,2})*[0-9a-f]{2,4})(?:\s{2,}.*|\s*\|.*)?\s*$/i.exec(line);
  return dump?.[1] ?? line;
}
