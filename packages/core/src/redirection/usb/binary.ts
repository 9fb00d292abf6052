import { emptyDevice, hex2, hex4, type UsbDevice, type UsbEndpoint, type UsbInterface } from './device.js';

/** What is wrong with descriptors, and at which byte or line. */
export class UsbError extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

/** Descriptor types [USB 2.0 table 9-5; the association: its ECN]. */
const types = { device: 1, configuration: 2, interface: 4, endpoint: 5, association: 11 } as const;
/** Least length of each that is read [USB 2.0 §9.6.1, §9.6.3, §9.6.5, §9.6.6]. */
const least: Readonly<Record<number, number>> = { 1: 18, 2: 9, 4: 9, 5: 7, 11: 8 };
const transfers = ['control', 'isochronous', 'bulk', 'interrupt'] as const;
/** A revision in binary-coded decimal. @example 0x0110 is "01.10" */
export const bcd = (value: number): string => `${hex2(value >> 8)}.${hex2(value & 0xff)}`;
/** Most bytes that are read: a device has some hundreds. */
const mostBytes = 1_000_000;

/** Reads one descriptor after the other; what it does not know it steps over by its length. */
class Reading {
  readonly devices: UsbDevice[] = [];
  private device: UsbDevice | null = null;
  private interface: UsbInterface | null = null;
  private configurations = 0;

  take(type: number, at: number, view: DataView): void {
    const u8 = (offset: number) => view.getUint8(at + offset);
    const u16 = (offset: number) => view.getUint16(at + offset, true);
    const triple = (offset: number) => ({ class: hex2(u8(offset)), subclass: hex2(u8(offset + 1)), protocol: hex2(u8(offset + 2)) });
    if (type === types.device) {
      this.device = { ...emptyDevice(), usbBcd: u16(2), ...triple(4), vid: hex4(u16(8)), pid: hex4(u16(10)), revision: bcd(u16(12)) };
      [this.interface, this.configurations] = [null, 0];
      this.devices.push(this.device);
      return;
    }
    const { device } = this;
    if (!device) throw new UsbError('begins with another descriptor than that of a device', at);
    switch (type) {
      case types.configuration:
        this.configurations++;
        this.interface = null;
        // units of 2 mA, from USB 3 on of 8 mA [USB 3.2 §9.6.3]
        if (this.configurations === 1) device.maxPowerMa = u8(8) * (device.usbBcd >= 0x0300 ? 8 : 2);
        break;
      case types.interface:
        this.interface = { number: u8(2), alternate: u8(3), ...triple(5), endpoints: [] };
        if (this.configurations <= 1) device.interfaces.push(this.interface);
        break;
      case types.association:
        if (this.configurations <= 1) device.associations.push({ first: u8(2), count: u8(3), ...triple(4) });
        break;
      case types.endpoint: {
        if (!this.interface) throw new UsbError('has an endpoint before any interface', at);
        const size = u16(4);
        const endpoint: UsbEndpoint = {
          address: u8(2),
          transfer: transfers[u8(3) & 3] as UsbEndpoint['transfer'],
          packetBytes: size & 0x7ff,
          packets: ((size >> 11) & 3) + 1,
          interval: u8(6),
        };
        this.interface.endpoints.push(endpoint);
      }
    }
  }
}

/**
 * Reads binary descriptors as a system hands them out: that of the device, then its configurations with everything in them; of several devices one
 * after the other [USB 2.0 §9.6].
 * @throws {UsbError} with the byte at which it breaks off or makes no sense
 */
export function readBinary(bytes: Uint8Array): UsbDevice[] {
  if (bytes.length === 0) throw new UsbError('is empty', 0);
  if (bytes.length > mostBytes) throw new UsbError(`has more than ${mostBytes} bytes`, mostBytes);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const reading = new Reading();
  for (let at = 0; at < bytes.length;) {
    const length = view.getUint8(at);
    if (length < 2) throw new UsbError(`a descriptor says it has ${length} bytes, and the shortest has 2`, at);
    if (at + length > bytes.length) throw new UsbError(`a descriptor says it has ${length} bytes, and ${bytes.length - at} are left`, at);
    const type = view.getUint8(at + 1);
    const wanted = least[type];
    if (wanted !== undefined && length < wanted)
      throw new UsbError(`a descriptor of type ${type} has ${length} bytes, and wants ${wanted}`, at);
    reading.take(type, at, view);
    at += length;
  }
  return reading.devices;
}
