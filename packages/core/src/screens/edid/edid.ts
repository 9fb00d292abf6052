import { bad, good, type Result } from '../../units/result.js';
import { isEdid } from './bytes.js';
import { ctaModes } from './cta.js';
import { detailed, type DetailedMode } from './detailed.js';
import { descriptorModes, descriptorText, establishedModes, standardModes } from './listed.js';

/** A mode that a screen says it shows. */
export interface EdidMode {
  widthPx: number;
  heightPx: number;
  /** Pictures a second; of half the lines each where interlaced. */
  refreshHz: number;
  interlaced: boolean;
  /** Only with colours at a quarter of the detail. */
  only420: boolean;
}
/** Something wrong with a description, and where; bytes count from the first of the file. */
export interface EdidProblem {
  offset: number;
  text: string;
}
/** What a screen says of itself. */
export interface Edid {
  /** Three letters of the maker. */
  manufacturer: string;
  /** The maker's number of the product. */
  product: number;
  /** What it calls itself; null where it does not. */
  name: string | null;
  /** When it was made, or its model was. */
  year: number;
  /** Size of the picture, mm; null where it has none, as a projector. */
  widthMm: number | null;
  heightMm: number | null;
  /** The mode it wants most; null where it names none in full. */
  preferred: DetailedMode | null;
  modes: EdidMode[];
  /** What its further blocks are. */
  extensions: string[];
  problems: EdidProblem[];
}

const block = 128;
/** Further blocks by their first byte [VESA E-EDID 1.4; from memory, those of the screens in the tests as edid-decode names them]. */
const extensionNames: Readonly<Record<number, string>> = {
  ...{ 0x02: 'CTA-861', 0x10: 'video timings', 0x40: 'display information', 0x50: 'localised texts', 0x60: 'digital packet video link' },
  ...{ 0x70: 'DisplayID', 0xf0: 'block map', 0xff: 'of the maker' },
};

/**
 * Reads what a screen says of itself: the base block, CTA-861 extensions, and the names of others [VESA E-EDID 1.4, CTA-861]. What is
 * wrong with it is told, and as much as can be is read: very few descriptions are free of faults.
 */
export function readEdid(bytes: Uint8Array): Result<Edid> {
  if (!isEdid(bytes)) return bad('byte 0', 'does not begin with 0, six times 255, 0', 'give the whole description of a screen');
  if (bytes.length < block)
    return bad(`byte ${bytes.length}`, `ends after ${bytes.length} bytes; the base block alone has ${block}`, 'give the whole of it');
  const problems: EdidProblem[] = [];
  const tell = (offset: number, text: string) => void problems.push({ offset, text });
  const at = (i: number) => bytes[i] as number;

  const letters = [at(8) >> 2, ((at(8) & 3) << 3) | (at(9) >> 5), at(9) & 31].map((n) => n & 31);
  if (at(8) & 0x80 || letters.some((n) => n < 1 || n > 26)) tell(8, 'names its maker with something that is no letter');
  if (at(16) === 0 && at(17) === 0) tell(17, 'does not say when it was made');
  if (at(16) > 54 && at(16) !== 255) tell(16, `was made in week ${at(16)} of a year`);
  if (at(18) !== 1) tell(18, `is version ${at(18)}.${at(19)} of the format; 1.0 to 1.4 can be read`);

  const modes: EdidMode[] = [...establishedModes(bytes), ...standardModes(bytes, 38, 8, at(19))];
  let preferred: DetailedMode | null = null;
  let name: string | null = null;
  for (let n = 0; n < 4; n++) {
    const offset = 54 + 18 * n;
    const mode = detailed(bytes, offset);
    if (mode) {
      if (mode.fault) tell(offset, mode.fault);
      else {
        if (n === 0) preferred = mode;
        modes.push(mode);
      }
      continue;
    }
    if (n === 0 && at(19) >= 3) tell(offset, 'does not say first which mode it wants most');
    name ??= descriptorText(bytes, offset, 0xfc);
    modes.push(...descriptorModes(bytes, offset, at(19)));
  }

  const extensions: string[] = [];
  const there = Math.floor(bytes.length / block) - 1;
  if (at(126) > there)
    tell(126, `says that ${at(126)} more block${at(126) === 1 ? ' follows' : 's follow'}; ${there === 1 ? '1 is' : `${there} are`} there`);
  if (bytes.length % block) tell(bytes.length, `ends within a block, ${bytes.length % block} bytes after its beginning`);
  for (let n = 0; n <= Math.min(there, at(126)); n++) {
    const from = n * block;
    const sum = bytes.subarray(from, from + block).reduce((all, byte) => (all + byte) & 0xff, 0);
    if (sum) tell(from + 127, `block ${n} sums to ${sum} instead of 0: a byte of it is wrong`);
    if (n === 0) continue;
    extensions.push(extensionNames[at(from)] ?? `not known (${at(from)})`);
    if (at(from) === 0x02) modes.push(...ctaModes(bytes, from, tell));
  }
  return good({
    manufacturer: letters.map((n) => String.fromCharCode(64 + n)).join(''),
    product: at(10) | (at(11) << 8),
    name,
    year: 1990 + at(17),
    ...sizeOf(bytes, preferred),
    preferred,
    modes: distinct(modes),
    extensions,
    problems: problems.sort((a, b) => a.offset - b.offset),
  });
}

/** The size in mm of the preferred mode, or in whole cm; of two noughts, or an aspect ratio alone, none. */
function sizeOf(bytes: Uint8Array, preferred: DetailedMode | null): { widthMm: number | null; heightMm: number | null } {
  if (preferred && preferred.widthMm > 0 && preferred.heightMm > 0) return { widthMm: preferred.widthMm, heightMm: preferred.heightMm };
  const [width, height] = [bytes[21] as number, bytes[22] as number];
  return width && height ? { widthMm: 10 * width, heightMm: 10 * height } : { widthMm: null, heightMm: null };
}

/** Each mode once; the same size and whole refresh rate is the same mode. */
function distinct(modes: readonly EdidMode[]): EdidMode[] {
  const found = new Map<string, EdidMode>();
  for (const { widthPx, heightPx, refreshHz, interlaced, only420 } of modes) {
    const key = `${widthPx}x${heightPx}${interlaced ? 'i' : ''}@${Math.round(refreshHz)}`;
    const known = found.get(key);
    // what passes in full is not only passed at a quarter of the detail
    if (!known || (known.only420 && !only420)) found.set(key, { widthPx, heightPx, refreshHz, interlaced, only420 });
  }
  return [...found.values()];
}
