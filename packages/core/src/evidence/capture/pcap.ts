import { bigEndian, littleEndian, type Numbers } from './bytes.js';
import { longestPacket, type CaptureSink } from './packet.js';
import type { Part, PartReader } from './parts.js';

const headLength = 24;
const recordHead = 16;
/** First four bytes as a number with the first weighing most: order of bytes, and units of a second's fraction. */
const magics: Readonly<Record<number, { order: Numbers; unitNs: number }>> = {
  0xa1b2c3d4: { order: bigEndian, unitNs: 1000 },
  0xd4c3b2a1: { order: littleEndian, unitNs: 1000 },
  0xa1b23c4d: { order: bigEndian, unitNs: 1 },
  0x4d3cb2a1: { order: littleEndian, unitNs: 1 },
};
/** Whether a file begins like the older format; its first four bytes as a number, the first weighing most. */
export const isPcap = (magic: number): boolean => magic in magics;

/**
 * The older capture format: a head, then records one after the other [draft-ietf-opsawg-pcap].
 * @returns what reads its parts: the head first
 */
export function pcapReader(sink: CaptureSink): PartReader {
  let count = 0;
  const record =
    (order: Numbers, unitNs: number, linkType: number, snapLength: number): PartReader =>
    (bytes, at, offset): Part => {
      if (bytes.length - at < recordHead) return { needs: recordHead };
      const kept = order.u32(bytes, at + 8);
      const originalLength = order.u32(bytes, at + 12);
      const most = Math.max(snapLength, 262_144);
      if (kept > Math.min(most, longestPacket))
        return { stop: { offset: offset + 8, text: `packet ${count + 1} says that it has ${kept} bytes; at most ${most} can be` } };
      const length = recordHead + kept;
      if (bytes.length - at < length) return { needs: length };
      count++;
      const fraction = order.u32(bytes, at + 4);
      const atNs = fraction * unitNs;
      if (atNs >= 1e9)
        sink.problem({ offset: offset + 4, text: `packet ${count} says ${fraction} parts of a second, more than a second has` });
      sink.packet({
        number: count,
        atS: order.u32(bytes, at),
        atNs: Math.min(atNs, 999_999_999),
        linkType,
        bytes: bytes.subarray(at + recordHead, at + length),
        originalLength,
        offset: offset + recordHead,
      });
      return { taken: length };
    };
  return (bytes, at, offset): Part => {
    if (bytes.length - at < headLength) return { needs: headLength };
    const { order, unitNs } = magics[bigEndian.u32(bytes, at)] as (typeof magics)[number];
    const [major, minor] = [order.u16(bytes, at + 4), order.u16(bytes, at + 6)];
    if (major !== 2) return { stop: { offset: offset + 4, text: `is version ${major}.${minor} of the format; 2.4 can be read` } };
    const snapLength = order.u32(bytes, at + 16);
    // the upper bits tell of a check sum behind each packet
    const linkType = order.u32(bytes, at + 20) & 0x0fff_ffff;
    return { taken: headLength, next: record(order, unitNs, linkType & 0xffff, snapLength) };
  };
}
