/** A mode told in full. */
export interface DetailedMode {
  widthPx: number;
  heightPx: number;
  refreshHz: number;
  clockMhz: number;
  interlaced: boolean;
  only420: boolean;
  /** Size of its picture, mm. */
  widthMm: number;
  heightMm: number;
  /** Why it cannot be. */
  fault: string | null;
}

/**
 * The 18 bytes of a detailed timing [VESA E-EDID 1.4, 3.10.2]: the clock in 10 kHz with the low byte first, and sizes whose upper bits
 * stand together. Null where something else is described there.
 */
export function detailed(bytes: Uint8Array, offset: number): DetailedMode | null {
  const at = (i: number) => bytes[offset + i] as number;
  const clock10kHz = at(0) | (at(1) << 8);
  if (clock10kHz === 0) return null;
  const widthPx = at(2) | ((at(4) & 0xf0) << 4);
  const blankPx = at(3) | ((at(4) & 0x0f) << 8);
  const lines = at(5) | ((at(7) & 0xf0) << 4);
  const blankLines = at(6) | ((at(7) & 0x0f) << 8);
  const interlaced = (at(17) & 0x80) !== 0;
  const clockMhz = clock10kHz / 100;
  // a field of an interlaced picture has half a line more
  const total = (widthPx + blankPx) * (lines + blankLines + (interlaced ? 0.5 : 0));
  return {
    ...{ widthPx, heightPx: interlaced ? 2 * lines : lines, clockMhz, interlaced, only420: false },
    refreshHz: total ? (clockMhz * 1e6) / total : 0,
    widthMm: at(12) | ((at(14) & 0xf0) << 4),
    heightMm: at(13) | ((at(14) & 0x0f) << 8),
    fault: widthPx && lines ? null : `describes a mode of ${widthPx} × ${lines}`,
  };
}
