import { bigEndian, littleEndian, type Numbers } from './bytes.js';
import { longestPacket, type CaptureProblem, type CaptureSink } from './packet.js';
import type { Part, PartReader } from './parts.js';

const sectionType = 0x0a0d_0d0a;
const interfaceType = 1;
const packetType = 2;
const simpleType = 3;
const enhancedType = 6;
/** A block has its type and length before and its length behind. */
const around = 12;
const longestBlock = longestPacket + 65_536;
const resolutionOption = 9;
const offsetOption = 14;

/** Whether a file begins like the newer format; its first four bytes as a number, the first weighing most. */
export const isPcapng = (magic: number): boolean => magic === sectionType;

interface Interface {
  linkType: number;
  snapLength: number;
  /** Units of time in a second. */
  perSecond: number;
  offsetS: number;
}

/**
 * The newer capture format: blocks, of which sections, interfaces and packets are read and all others passed over
 * [draft-ietf-opsawg-pcapng].
 */
export function pcapngReader(sink: CaptureSink): PartReader {
  let order: Numbers = littleEndian;
  let interfaces: Interface[] = [];
  let count = 0;

  const told = (bytes: Uint8Array, offset: number, id: number, high: number, low: number, kept: number, originalLength: number) => {
    count++;
    const of = interfaces[id];
    if (!of) return sink.problem({ offset, text: `packet ${count} is of interface ${id}, which the file does not describe` });
    const [seconds, rest] = parted(high, low, of.perSecond);
    sink.packet({
      number: count,
      atS: seconds + of.offsetS,
      atNs: Math.floor((rest / of.perSecond) * 1e9),
      linkType: of.linkType,
      bytes: bytes.subarray(0, kept),
      originalLength,
      offset,
    });
  };

  /** Reads the body of a block. @returns what is wrong with it, if that ends the reading */
  const body = (type: number, bytes: Uint8Array, offset: number): CaptureProblem | null => {
    const short = (least: number): CaptureProblem | null =>
      bytes.length < least ? { offset, text: `a block of type ${type} has ${bytes.length} bytes; it needs ${least}` } : null;
    if (type === interfaceType) {
      const wrong = short(8);
      if (wrong) return wrong;
      interfaces.push({ linkType: order.u16(bytes, 0), snapLength: order.u32(bytes, 4), ...timesOf(bytes.subarray(8), order) });
    } else if (type === enhancedType || type === packetType) {
      const wrong = short(20);
      if (wrong) return wrong;
      const kept = order.u32(bytes, 12);
      if (kept > bytes.length - 20)
        return { offset: offset + 12, text: `packet ${count + 1} says that it has ${kept} bytes; its block has ${bytes.length - 20}` };
      const id = type === enhancedType ? order.u32(bytes, 0) : order.u16(bytes, 0);
      told(bytes.subarray(20), offset + 20, id, order.u32(bytes, 4), order.u32(bytes, 8), kept, order.u32(bytes, 16));
    } else if (type === simpleType) {
      const wrong = short(4);
      if (wrong) return wrong;
      count++;
      const first = interfaces[0];
      const originalLength = order.u32(bytes, 0);
      if (!first) sink.problem({ offset, text: `packet ${count} comes before any interface is described` });
      else
        sink.packet({
          ...{ number: count, atS: null, atNs: 0, linkType: first.linkType, originalLength, offset: offset + 4 },
          bytes: bytes.subarray(4, 4 + Math.min(originalLength, first.snapLength || Infinity, bytes.length - 4)),
        });
    }
    return null;
  };

  return function block(bytes, at, offset): Part {
    if (bytes.length - at < around) return { needs: around };
    let type = order.u32(bytes, at);
    if (type === sectionType) {
      const magic = bigEndian.u32(bytes, at + 8);
      if (magic !== 0x1a2b_3c4d && magic !== 0x4d3c_2b1a)
        return { stop: { offset: offset + 8, text: 'a section does not say in which order its bytes stand' } };
      order = magic === 0x1a2b_3c4d ? bigEndian : littleEndian;
      interfaces = [];
      type = sectionType;
    }
    const length = order.u32(bytes, at + 4);
    if (length < around || length % 4 || length > longestBlock)
      return {
        stop: {
          offset: offset + 4,
          text: `a block says that it has ${length} bytes; a whole number of fours from 12 to ${longestBlock} can be`,
        },
      };
    if (bytes.length - at < length) return { needs: length };
    if (order.u32(bytes, at + length - 4) !== length)
      return { stop: { offset: offset + length - 4, text: `the length behind a block is not the one before it, ${length}` } };
    if (type === sectionType && order.u16(bytes, at + 12) !== 1)
      return { stop: { offset: offset + 12, text: `is version ${order.u16(bytes, at + 12)} of the format; 1 can be read` } };
    const stop = body(type, bytes.subarray(at + 8, at + length - 4), offset + 8);
    return stop ? { stop } : { taken: length };
  };
}

/** Ticks in 64 bits as whole seconds and the ticks that are left; exact, also where they are more than a number holds. */
function parted(high: number, low: number, perSecond: number): [seconds: number, rest: number] {
  if (high < 2 ** 20) {
    const ticks = high * 2 ** 32 + low;
    const seconds = Math.floor(ticks / perSecond);
    return [seconds, ticks - seconds * perSecond];
  }
  const ticks = BigInt(high) * 4_294_967_296n + BigInt(low);
  return [Number(ticks / BigInt(perSecond)), Number(ticks % BigInt(perSecond))];
}

/** How an interface tells times: microseconds unless it says another unit. */
function timesOf(options: Uint8Array, order: Numbers): { perSecond: number; offsetS: number } {
  const times = { perSecond: 1e6, offsetS: 0 };
  for (let at = 0; at + 4 <= options.length;) {
    const [code, length] = [order.u16(options, at), order.u16(options, at + 2)];
    if (code === 0 || at + 4 + length > options.length) break;
    if (code === resolutionOption && length >= 1) {
      const value = options[at + 4] as number;
      // the highest bit chooses powers of two; a unit finer than is counted in 64 bits is no unit
      const perSecond = value & 0x80 ? 2 ** (value & 0x7f) : 10 ** value;
      if (perSecond <= 1e18) times.perSecond = perSecond;
    } else if (code === offsetOption && length >= 8) {
      const high = order === bigEndian ? order.u32(options, at + 4) : order.u32(options, at + 8);
      const low = order === bigEndian ? order.u32(options, at + 8) : order.u32(options, at + 4);
      times.offsetS = (high | 0) * 2 ** 32 + low;
    }
    at += 4 + Math.ceil(length / 4) * 4;
  }
  return times;
}
