import { latinText } from '../../units/text.js';
import type { EdidMode } from './edid.js';
import { established, establishedMore, type ListedMode } from './modes.js';

const modeOf = ([widthPx, heightPx, refreshHz, interlaced]: ListedMode, only420 = false): EdidMode => ({
  ...{ widthPx, heightPx, refreshHz, interlaced: interlaced ?? false, only420 },
});
/** A mode of a list. */
export const listedMode = modeOf;

/** Modes for which a bit each stands, from a byte on, the highest bit first. */
const bits = (bytes: Uint8Array, from: number, list: readonly (ListedMode | null)[]): EdidMode[] =>
  list.flatMap((mode, i) => (mode && (bytes[from + (i >> 3)] as number) & (0x80 >> (i & 7)) ? [modeOf(mode)] : []));

/** The modes of the oldest kind: a bit each. */
export const establishedModes = (bytes: Uint8Array): EdidMode[] => bits(bytes, 35, established);

/** Height to width by two bits; the first was square before revision 3 [VESA E-EDID 1.4, 3.9]. */
const shapes = [
  [10, 16],
  [3, 4],
  [4, 5],
  [9, 16],
] as const;

/** Modes in two bytes each: the width, its shape, and pictures a second from 60 to 123. */
export function standardModes(bytes: Uint8Array, from: number, count: number, revision: number): EdidMode[] {
  return Array.from({ length: count }).flatMap((_, i): EdidMode[] => {
    const [first, second] = [bytes[from + 2 * i] as number, bytes[from + 2 * i + 1] as number];
    // two ones stand for none; a first byte below two for a fault that many have
    if (first <= 1) return [];
    const widthPx = 8 * (first + 31);
    const shape = second >> 6;
    const [high, wide] = shape === 0 && revision < 3 ? [1, 1] : (shapes[shape] as readonly [number, number]);
    return [modeOf([widthPx, Math.floor((widthPx * high) / wide), 60 + (second & 0x3f)])];
  });
}

/** Text in a descriptor of a kind, up to its line end; null where it is of another kind or empty. */
export function descriptorText(bytes: Uint8Array, offset: number, tag: number): string | null {
  if (bytes[offset + 3] !== tag) return null;
  const text = latinText(bytes.subarray(offset + 5, offset + 18))
    .replace(/[\n\0].*$/s, '')
    .trim();
  return text || null;
}

const aspects = [
  [4, 3],
  [16, 9],
  [16, 10],
  [15, 9],
] as const;
const cvtRates = [60, 85, 75, 60, 50] as const;

/** Modes in a descriptor: more of two bytes each, more bits, or three bytes each by the formula of VESA CVT. */
export function descriptorModes(bytes: Uint8Array, offset: number, revision: number): EdidMode[] {
  const tag = bytes[offset + 3];
  if (tag === 0xfa) return standardModes(bytes, offset + 5, 6, revision);
  if (tag === 0xf7) return bits(bytes, offset + 6, establishedMore);
  if (tag !== 0xf8) return [];
  return [0, 1, 2, 3].flatMap((n): EdidMode[] => {
    const at = (i: number) => bytes[offset + 6 + 3 * n + i] as number;
    if (at(0) === 0 && at(1) === 0 && at(2) === 0) return [];
    const heightPx = 2 * ((at(0) | ((at(1) & 0xf0) << 4)) + 1);
    const [wide, high] = aspects[(at(1) >> 2) & 3] as readonly [number, number];
    const widthPx = 8 * Math.floor((heightPx * wide) / high / 8);
    return cvtRates.flatMap((rate, bit) => (at(2) & (1 << bit) ? [modeOf([widthPx, heightPx, rate])] : []));
  });
}
