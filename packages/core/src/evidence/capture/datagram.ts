import { bigEndian } from './bytes.js';

const { u16 } = bigEndian;

/** A UDP datagram found in a packet. */
export interface Datagram {
  /** Addresses as they are written, IPv4 or IPv6. */
  source: string;
  destination: string;
  sourcePort: number;
  destinationPort: number;
  /** What it carries, as far as it was kept. */
  payload: Uint8Array;
  /** Where in the packet that begins. */
  at: number;
  /** Whether less was kept than was sent, or it is the first piece of several. */
  isCut: boolean;
}

const ipv4 = 0x0800;
const ipv6 = 0x86dd;
const vlans = new Set([0x8100, 0x88a8, 0x9100]);
const udp = 17;

/** Where the network layer begins and what it is; null where that is not known of the link. */
function networkOf(linkType: number, bytes: Uint8Array): { at: number; protocol: number } | null {
  const byVersion = (at: number) => ({ at, protocol: (bytes[at] ?? 0) >> 4 === 6 ? ipv6 : ipv4 });
  switch (linkType) {
    case 1: {
      let at = 12;
      while (at + 4 <= bytes.length && vlans.has(u16(bytes, at))) at += 4;
      return at + 2 <= bytes.length ? { at: at + 2, protocol: u16(bytes, at) } : null;
    }
    // the loopback: four bytes of a family, in whichever order the machine has
    case 0:
    case 108:
      return byVersion(4);
    // IP alone
    case 12:
    case 14:
    case 101:
    case 228:
    case 229:
      return byVersion(0);
    // “any” interface, in its two forms
    case 113:
      return bytes.length >= 16 ? { at: 16, protocol: u16(bytes, 14) } : null;
    case 276:
      return bytes.length >= 20 ? { at: 20, protocol: u16(bytes, 0) } : null;
    default:
      return null;
  }
}

/** An IPv6 address as it is written: the longest run of zeros, if it is of two groups or more, shortened [RFC 5952]. */
export function ipv6Text(bytes: Uint8Array, at: number): string {
  const groups = Array.from({ length: 8 }, (_, i) => u16(bytes, at + 2 * i).toString(16));
  let [start, length] = [-1, 1];
  for (let i = 0; i < 8; i++) {
    let run = 0;
    while (groups[i + run] === '0') run++;
    if (run > length) [start, length] = [i, run];
  }
  return start < 0 ? groups.join(':') : `${groups.slice(0, start).join(':')}::${groups.slice(start + length).join(':')}`;
}

/**
 * The UDP datagram in a packet over Ethernet (with or without VLAN tags), the loopback, Linux “any” or IP alone, by IPv4 or IPv6
 * [RFC 768, 791, 8200]. Null where there is none, or only a later piece of one.
 */
export function datagramIn(linkType: number, bytes: Uint8Array): Datagram | null {
  const network = networkOf(linkType, bytes);
  if (!network) return null;
  const { at, protocol } = network;
  if (protocol === ipv4) return overIpv4(bytes, at);
  return protocol === ipv6 ? overIpv6(bytes, at) : null;
}

function overIpv4(bytes: Uint8Array, at: number): Datagram | null {
  if (bytes.length < at + 20) return null;
  const head = ((bytes[at] as number) & 0x0f) * 4;
  if ((bytes[at] as number) >> 4 !== 4 || head < 20 || bytes[at + 9] !== udp) return null;
  const pieces = u16(bytes, at + 6);
  if (pieces & 0x1fff) return null;
  return udpAt(bytes, at + head, ipv4At(bytes, at + 12), ipv4At(bytes, at + 16), (pieces & 0x2000) !== 0);
}

/** Heads that may stand between IPv6 and what it carries, and can be passed over. */
const passed = new Set([0, 43, 60, 44]);

function overIpv6(bytes: Uint8Array, at: number): Datagram | null {
  if (bytes.length < at + 40 || (bytes[at] as number) >> 4 !== 6) return null;
  let next = bytes[at + 6] as number;
  let here = at + 40;
  let isPiece = false;
  while (passed.has(next)) {
    if (bytes.length < here + 8) return null;
    if (next === 44) {
      const pieces = u16(bytes, here + 2);
      if (pieces & 0xfff8) return null;
      isPiece ||= (pieces & 1) !== 0;
    }
    const length = next === 44 ? 8 : 8 * ((bytes[here + 1] as number) + 1);
    next = bytes[here] as number;
    here += length;
  }
  return next === udp ? udpAt(bytes, here, ipv6Text(bytes, at + 8), ipv6Text(bytes, at + 24), isPiece) : null;
}

function udpAt(bytes: Uint8Array, at: number, source: string, destination: string, isPiece: boolean): Datagram | null {
  if (bytes.length < at + 8) return null;
  const length = u16(bytes, at + 4);
  if (length < 8) return null;
  const end = at + length;
  return {
    source,
    destination,
    sourcePort: u16(bytes, at),
    destinationPort: u16(bytes, at + 2),
    payload: bytes.subarray(at + 8, Math.min(end, bytes.length)),
    at: at + 8,
    isCut: isPiece || end > bytes.length,
  };
}

/** The IPv4 address at a place. */
export const ipv4At = (bytes: Uint8Array, at: number): string => `${bytes[at]}.${bytes[at + 1]}.${bytes[at + 2]}.${bytes[at + 3]}`;
