import type { Peripheral } from '@underpass/contracts';
import { isochronousOf, readBinary, readLsusb, speedOf, UsbError, written, type UsbDevice } from '@underpass/core';

/** A device as its descriptors tell it, as a peripheral of an endpoint. */
function asPeripheral(device: UsbDevice, endpoint: string, n: number): Peripheral {
  const seen = new Set<number>();
  const interfaces = device.interfaces.flatMap((each) => (seen.has(each.number) ? [] : (seen.add(each.number), [written(each)])));
  return {
    id: `read-${n}`,
    ...(device.name ? { name: device.name } : {}),
    endpoint,
    vid: device.vid,
    pid: device.pid,
    revision: device.revision,
    class: written(device),
    interfaces: interfaces.slice(0, 32),
    speed: speedOf(device),
    isochronousMbps: Math.round(isochronousOf(device) * 1000) / 1000,
    maxPowerMa: device.maxPowerMa,
  };
}

type Read = { devices: Peripheral[] } | { fault: string };
const told = (error: unknown, unit: string): Read => {
  if (error instanceof UsbError) return { fault: `${unit} ${error.at}: it ${error.message}.` };
  throw error;
};

/** Devices from pasted text of a listing. */
export function fromText(text: string, endpoint: string): Read {
  try {
    return { devices: readLsusb(text).map((device, i) => asPeripheral(device, endpoint, i + 1)) };
  } catch (error) {
    return told(error, 'Line');
  }
}
/** Devices from binary descriptors. */
export function fromBytes(bytes: Uint8Array, endpoint: string): Read {
  try {
    return { devices: readBinary(bytes).map((device, i) => asPeripheral(device, endpoint, i + 1)) };
  } catch (error) {
    return told(error, 'Byte');
  }
}

/** What a browser hands out of a device that somebody lets it see [WebUSB]. */
interface SeenDevice {
  vendorId: number;
  productId: number;
  productName?: string;
  deviceClass: number;
  deviceSubclass: number;
  deviceProtocol: number;
  deviceVersionMajor: number;
  deviceVersionMinor: number;
  deviceVersionSubminor: number;
  configurations: readonly {
    interfaces: readonly {
      interfaceNumber: number;
      alternates: readonly { interfaceClass: number; interfaceSubclass: number; interfaceProtocol: number }[];
    }[];
  }[];
}
export interface UsbOfBrowser {
  requestDevice: (wanted: { filters: [] }) => Promise<SeenDevice>;
}
const hex = (value: number, digits: number) => value.toString(16).padStart(digits, '0');

/** A device that somebody let the browser see. */
export function fromBrowser(seen: SeenDevice, endpoint: string): Peripheral {
  const triple = (a: number, b: number, c: number) => `${hex(a, 2)}/${hex(b, 2)}/${hex(c, 2)}`;
  return {
    id: 'seen-1',
    ...(seen.productName ? { name: seen.productName.slice(0, 120) } : {}),
    endpoint,
    vid: hex(seen.vendorId, 4),
    pid: hex(seen.productId, 4),
    revision: `${hex(seen.deviceVersionMajor, 2)}.${hex(seen.deviceVersionMinor * 16 + seen.deviceVersionSubminor, 2)}`,
    class: triple(seen.deviceClass, seen.deviceSubclass, seen.deviceProtocol),
    interfaces: (seen.configurations[0]?.interfaces ?? []).flatMap(({ alternates: [first] }) =>
      first ? [triple(first.interfaceClass, first.interfaceSubclass, first.interfaceProtocol)] : [],
    ),
  };
}
