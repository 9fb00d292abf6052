/** Whole numbers in a row of bytes, in either order. Nothing is read beyond the end: whoever calls has looked how much there is. */
export interface Numbers {
  u16: (bytes: Uint8Array, at: number) => number;
  u32: (bytes: Uint8Array, at: number) => number;
}
const byteAt = (bytes: Uint8Array, at: number): number => bytes[at] as number;

/** The first byte weighs most, as on the wire. */
export const bigEndian: Numbers = {
  u16: (bytes, at) => (byteAt(bytes, at) << 8) | byteAt(bytes, at + 1),
  u32: (bytes, at) =>
    ((byteAt(bytes, at) << 24) | (byteAt(bytes, at + 1) << 16) | (byteAt(bytes, at + 2) << 8) | byteAt(bytes, at + 3)) >>> 0,
};
/** The first byte weighs least. */
export const littleEndian: Numbers = {
  u16: (bytes, at) => byteAt(bytes, at) | (byteAt(bytes, at + 1) << 8),
  u32: (bytes, at) =>
    (byteAt(bytes, at) | (byteAt(bytes, at + 1) << 8) | (byteAt(bytes, at + 2) << 16) | (byteAt(bytes, at + 3) << 24)) >>> 0,
};
