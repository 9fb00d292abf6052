/** A device that somebody has let this browser see before [WebUSB, WebHID]; nothing is asked for here. */
interface Granted {
  vendorId: number;
  productId: number;
  configurations?: readonly {
    interfaces: readonly { alternates: readonly { interfaceClass: number; interfaceSubclass: number; interfaceProtocol: number }[] }[];
  }[];
}
type Lists = Navigator & { usb?: { getDevices: () => Promise<Granted[]> }; hid?: { getDevices: () => Promise<Granted[]> } };

const hex = (value: number, digits: number): string => value.toString(16).padStart(digits, '0');
const kinds: Readonly<Record<string, string>> = { videoinput: 'camera', audioinput: 'microphone', audiooutput: 'speaker' };
const mostTold = 40;

/** A device by its codes. */
export function granted(bus: 'usb' | 'hid', { vendorId, productId, configurations }: Granted): string {
  const codes = (configurations?.[0]?.interfaces ?? []).flatMap(({ alternates: [first] }) =>
    first ? [`${hex(first.interfaceClass, 2)}/${hex(first.interfaceSubclass, 2)}/${hex(first.interfaceProtocol, 2)}`] : [],
  );
  return [`${bus} ${hex(vendorId, 4)}:${hex(productId, 4)}`, ...(bus === 'usb' ? codes.slice(0, 32) : [])].join(' ');
}

/** What is plugged in, as far as this browser tells without asking anybody; undefined where it tells nothing. */
export async function measurePlugged(): Promise<string[] | undefined> {
  const { mediaDevices, usb, hid } = navigator as Lists;
  const none = () => [];
  const [media, overUsb, overHid] = await Promise.all([
    mediaDevices ? mediaDevices.enumerateDevices().catch(none) : [],
    usb ? usb.getDevices().catch(none) : [],
    hid ? hid.getDevices().catch(none) : [],
  ]);
  const found = [
    ...media.flatMap(({ kind }) => kinds[kind] ?? []),
    ...overUsb.map((device) => granted('usb', device)),
    ...overHid.map((device) => granted('hid', device)),
  ];
  return found.length > 0 ? found.slice(0, mostTold) : undefined;
}
