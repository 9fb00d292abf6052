import type { UsbSpeed } from '@underpass/contracts';

/** Class, subclass and protocol, two hexadecimal digits each [USB 2.0 §9.6]. */
export interface ClassTriple {
  class: string;
  subclass: string;
  protocol: string;
}
/** Where data goes in or out of an interface [USB 2.0 §9.6.6]. */
export interface UsbEndpoint {
  address: number;
  transfer: 'control' | 'isochronous' | 'bulk' | 'interrupt';
  /** Bytes of a packet: bits 10 to 0 of wMaxPacketSize. */
  packetBytes: number;
  /** Packets in a microframe: 1 to 3, bits 12 and 11 and one. */
  packets: number;
  interval: number;
}
/** One alternate setting of an interface [USB 2.0 §9.6.5]. */
export interface UsbInterface extends ClassTriple {
  number: number;
  alternate: number;
  endpoints: UsbEndpoint[];
}
/** Interfaces that are one function together [USB Interface Association Descriptor ECN]. */
export interface Association extends ClassTriple {
  first: number;
  count: number;
}
/** A device as its descriptors tell it. */
export interface UsbDevice extends ClassTriple {
  vid: string;
  pid: string;
  revision: string;
  /** Version of USB it speaks, as bcdUSB: 0x0200 is 2.00. */
  usbBcd: number;
  /** Most power of its first configuration, mA. */
  maxPowerMa: number;
  interfaces: UsbInterface[];
  associations: Association[];
  /** How fast it talks, where something other than its descriptors said so. */
  toldSpeed: UsbSpeed | null;
  name?: string;
}

/** Two hexadecimal digits. */
export const hex2 = (value: number): string => value.toString(16).padStart(2, '0');
/** Four hexadecimal digits. */
export const hex4 = (value: number): string => value.toString(16).padStart(4, '0');

/** A device begins with nothing known but its numbers. */
export const emptyDevice = (): UsbDevice => ({
  vid: '0000',
  pid: '0000',
  revision: '00.00',
  usbBcd: 0x0200,
  ...{ class: '00', subclass: '00', protocol: '00' },
  maxPowerMa: 0,
  interfaces: [],
  associations: [],
  toldSpeed: null,
});

/**
 * How fast a device talks, where nothing else says so: high from USB 2.00 on, unless a bulk endpoint has packets of 64 bytes or less, which
 * at high speed have 512 [USB 2.0 §5.8.3]; else full.
 */
export function speedOf({ toldSpeed, usbBcd, interfaces }: UsbDevice): UsbSpeed {
  if (toldSpeed) return toldSpeed;
  const smallBulk = interfaces.some(({ endpoints }) =>
    endpoints.some(({ transfer, packetBytes }) => transfer === 'bulk' && packetBytes <= 64),
  );
  return usbBcd >= 0x0200 && !smallBulk ? 'high' : 'full';
}

/**
 * What an isochronous endpoint asks for, Mbit/s: size × packets × how often; the interval is 2^(bInterval−1) frames at full speed, microframes of
 * 125 µs at high speed and above [USB 2.0 §9.6.6].
 * @example 1024 bytes, 3 packets, each microframe: 196.6; 1023 bytes each frame at full speed: 8.18
 */
export function isochronousMbps({ packetBytes, packets, interval }: UsbEndpoint, speed: UsbSpeed): number {
  const every = 2 ** (Math.min(16, Math.max(1, interval)) - 1);
  const isFull = speed === 'full' || speed === 'low';
  return (packetBytes * (isFull ? 1 : packets) * ((isFull ? 1000 : 8000) / every) * 8) / 1e6;
}

/** What a device asks for at most: of each interface the largest alternate setting, both ways of one together; added up, Mbit/s. */
export function isochronousOf(device: UsbDevice): number {
  const speed = speedOf(device);
  const largest = new Map<number, number>();
  for (const { number, endpoints } of device.interfaces) {
    const asks = endpoints
      .filter(({ transfer }) => transfer === 'isochronous')
      .reduce((sum, each) => sum + isochronousMbps(each, speed), 0);
    largest.set(number, Math.max(largest.get(number) ?? 0, asks));
  }
  return [...largest.values()].reduce((sum, each) => sum + each, 0);
}
