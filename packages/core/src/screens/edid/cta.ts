import { detailed } from './detailed.js';
import type { EdidMode } from './edid.js';
import { listedMode } from './listed.js';
import { hdmiVics, vics } from './modes.js';

/**
 * Modes of a CTA-861 extension: those it names by number, those that go only with colours at a quarter of the detail, the four older
 * ones of 2160 lines, and those in full [CTA-861-H, 7.5].
 */
export function ctaModes(bytes: Uint8Array, from: number, tell: (offset: number, text: string) => void): EdidMode[] {
  const modes: EdidMode[] = [];
  const at = (i: number) => bytes[from + i] as number;
  const full = at(2);
  if (full !== 0 && (full < 4 || full > 127)) {
    tell(from + 2, `says that its detailed modes begin at byte ${full} of the block`);
    return modes;
  }
  if (at(1) >= 3)
    for (let here = 4; here < full;) {
      const tag = at(here) >> 5;
      const length = at(here) & 0x1f;
      if (here + 1 + length > full) {
        tell(from + here, `has data of ${length} bytes; ${full - here - 1} are left for it`);
        break;
      }
      const data = bytes.subarray(from + here + 1, from + here + 1 + length);
      if (tag === 2) modes.push(...numbered(data, false));
      else if (tag === 7 && data[0] === 14) modes.push(...numbered(data.subarray(1), true));
      else if (tag === 3) modes.push(...ofHdmi(data));
      here += 1 + length;
    }
  for (let here = full; full && here + 18 <= 127; here += 18) {
    const mode = detailed(bytes, from + here);
    if (!mode) break;
    if (mode.fault) tell(from + here, mode.fault);
    else modes.push(mode);
  }
  return modes;
}

/** Numbers of modes; of those up to 64 the highest bit says that it is a native one. */
const numbered = (data: Uint8Array, only420: boolean): EdidMode[] =>
  [...data].flatMap((byte): EdidMode[] => {
    const mode = vics[byte > 128 && byte <= 192 ? byte & 0x7f : byte];
    return mode ? [listedMode(mode, only420)] : [];
  });

/** The data of HDMI itself, known by the number of its maker; the older modes of 2160 lines stand in it. */
function ofHdmi(data: Uint8Array): EdidMode[] {
  if (data[0] !== 0x03 || data[1] !== 0x0c || data[2] !== 0x00) return [];
  const flags = data[7] ?? 0;
  if (!(flags & 0x20)) return [];
  // latencies stand before it, where they are said to be there
  const here = 8 + (flags & 0x80 ? 2 : 0) + (flags & 0x40 ? 2 : 0);
  const count = (data[here + 1] ?? 0) >> 5;
  return [...data.subarray(here + 2, here + 2 + count)].flatMap((number): EdidMode[] => {
    const mode = hdmiVics[number - 1];
    return mode ? [listedMode(mode)] : [];
  });
}
