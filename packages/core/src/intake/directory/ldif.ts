import { fromBase64 } from '../../units/index.js';
import { readText } from '../encoding.js';
import { SheetError, type SheetNote } from '../sheet.js';
import type { DirectoryEntry } from './entry.js';

/** What a file of a directory holds. */
export interface LdifContent {
  entries: DirectoryEntry[];
  /** What was left out: values that are kept elsewhere, or that are no text. */
  notes: SheetNote[];
}

interface Line {
  line: number;
  text: string;
}

/** Most entries and attributes of one that are read. */
const mostEntries = 500_000;
const mostValues = 200_000;
/** Values left out that are told one by one; what comes after is counted. */
const mostNotes = 50;
const attributeName = /^([A-Za-z][A-Za-z0-9-]*|\d+(?:\.\d+)+)((?:;[A-Za-z0-9-]+)*)$/;

/** Attributes that hold what opens a door: they are left out before anybody sees them. */
const secret = /passw|pwd|secret|privatekey|krb.*key|token/i;

/** Lines with those put back that were folded: one that begins with a space goes on with the one before. */
function unfolded(text: string): Line[] {
  const lines: Line[] = [];
  for (const [i, raw] of text.split(/\r\n|\n|\r/).entries()) {
    const last = lines.at(-1);
    if (raw.startsWith(' ') && last) last.text += raw.slice(1);
    else lines.push({ line: i + 1, text: raw });
  }
  return lines;
}

/** Blocks of lines between blank ones; comments, which may be folded too, are gone. */
function* blocksOf(lines: readonly Line[]): Generator<Line[]> {
  let block: Line[] = [];
  for (const each of lines) {
    if (each.text.startsWith('#')) continue;
    if (each.text.trim() !== '') block.push(each);
    else if (block.length) {
      yield block;
      block = [];
    }
  }
  if (block.length) yield block;
}

interface Value {
  name: string;
  /** Null where it is kept elsewhere or is no text. */
  text: string | null;
  why?: string;
}

function valueOf({ line, text }: Line): Value {
  const colon = text.indexOf(':');
  const name = text.slice(0, Math.max(colon, 0)).trim();
  if (colon < 0 || !attributeName.test(name))
    throw new SheetError(`“${text.slice(0, 60)}” is not an attribute, a colon and its value`, line);
  const rest = text.slice(colon + 1);
  if (secret.test(name)) return { name, text: null, why: 'is a secret' };
  if (rest.startsWith('<')) return { name, text: null, why: 'is kept in another file, which is not opened' };
  if (!rest.startsWith(':')) return { name, text: rest.replace(/^ */, '') };
  const bytes = fromBase64(rest.slice(1).trim());
  if (!bytes) throw new SheetError(`${name} is not base64`, line);
  const { encoding, text: read } = readText(bytes);
  if (encoding !== 'utf-8' || read.includes('\0')) return { name, text: null, why: 'is no text' };
  return { name, text: read };
}

/**
 * Reads the entries of an LDIF file. Values that stand elsewhere are not fetched; files of changes are refused.
 * @throws SheetError with the line of what is wrong
 * @source RFC 2849
 */
export function readLdif(bytes: Uint8Array | string): LdifContent {
  const text = typeof bytes === 'string' ? bytes : readText(bytes).text;
  const entries: DirectoryEntry[] = [];
  const left: SheetNote[] = [];
  let first = true;
  for (const block of blocksOf(unfolded(text.replace(/^\uFEFF/, '')))) {
    let lines = block;
    if (first) {
      const version = /^version:\s*(.*)$/i.exec(block[0]?.text ?? '');
      if (version && version[1]?.trim() !== '1')
        throw new SheetError(`is of version ${version[1]}; 1 is the only one there is`, block[0]?.line ?? 1);
      if (version) lines = block.slice(1);
    }
    first = false;
    if (lines.length === 0) continue;
    if (entries.length >= mostEntries) throw new SheetError(`has more than ${mostEntries} entries; divide it`, lines[0]?.line ?? 1);
    entries.push(entryOf(lines, left));
  }
  if (entries.length === 0) throw new SheetError('holds no entries', 1);
  const next = left[mostNotes];
  const more = left.length - mostNotes;
  if (!next) return { entries, notes: left };
  const rest = { row: next.row, text: `from here on ${more === 1 ? 'one more value is' : `${more} more values are`} left out` };
  return { entries, notes: [...left.slice(0, mostNotes), rest] };
}

function entryOf(lines: readonly Line[], left: SheetNote[]): DirectoryEntry {
  const [top, ...rest] = lines as [Line, ...Line[]];
  const { name, text: dn } = valueOf(top);
  if (name.toLowerCase() !== 'dn' || dn === null)
    throw new SheetError(`begins with “${top.text.slice(0, 60)}”; an entry begins with dn:`, top.line);
  const change = rest.find(({ text }) => /^(changetype|control)\s*:/i.test(text) || text === '-');
  if (change)
    throw new SheetError('is a change and no entry; entries alone are read: export the directory as it is, without changes', change.line);
  if (rest.length > mostValues) throw new SheetError(`has more than ${mostValues} values in one entry`, top.line);
  const attributes = new Map<string, string[]>();
  for (const each of rest) {
    const { name: attribute, text, why } = valueOf(each);
    if (text === null) {
      left.push({ row: each.line, text: `${attribute} of ${dn} ${why}; it is left out` });
      continue;
    }
    const key = attribute.toLowerCase();
    const known = attributes.get(key);
    if (known) known.push(text);
    else attributes.set(key, [text]);
  }
  return { dn, attributes, line: top.line };
}

/** Whether a text is LDIF: its first line that is neither blank nor a comment names a version or an entry. */
export function isLdif(text: string): boolean {
  const lines = text
    .slice(0, 20_000)
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\n|\r/);
  const top = lines.find((line) => line.trim() !== '' && !line.startsWith('#') && !line.startsWith(' '));
  return /^(version\s*:\s*\d|dn\s*:)/i.test(top ?? '');
}
