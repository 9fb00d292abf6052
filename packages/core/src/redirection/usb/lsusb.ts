import type { UsbSpeed } from '@underpass/contracts';
import { UsbError } from './binary.js';
import { emptyDevice, hex2, hex4, type Association, type UsbDevice, type UsbEndpoint, type UsbInterface } from './device.js';

/** Sections that are read; every other one is stepped over, with fields of the same names in it. */
type Section = 'device' | 'configuration' | 'interface' | 'endpoint' | 'association' | null;
const sections: Readonly<Record<string, Section>> = {
  'Device Descriptor': 'device',
  'Configuration Descriptor': 'configuration',
  'Interface Descriptor': 'interface',
  'Endpoint Descriptor': 'endpoint',
  'Interface Association': 'association',
};
const transfers: Readonly<Record<number, UsbEndpoint['transfer']>> = { 0: 'control', 1: 'isochronous', 2: 'bulk', 3: 'interrupt' };
const mostLines = 200_000;

/** The speed that was agreed on, by its rate, Mbit/s. */
const speedAt = (mbps: number): UsbSpeed => (mbps < 12 ? 'low' : mbps < 480 ? 'full' : mbps < 5000 ? 'high' : 'super');

class Reading {
  readonly devices: UsbDevice[] = [];
  private section: Section = null;
  private device: UsbDevice | null = null;
  private interface: UsbInterface | null = null;
  private endpoint: UsbEndpoint | null = null;
  private association: Association | null = null;
  private configurations = 0;

  line(text: string, number: number): void {
    const bus = /^Bus \d+ Device \d+: ID ([0-9a-f]{4}):([0-9a-f]{4})(?:\s+(.*))?$/i.exec(text.trim());
    if (bus) return this.begin(bus[1] as string, bus[2] as string, bus[3]);
    const header = /^\s*([A-Z][A-Za-z ()]*):?\s*$/.exec(text);
    const named = header?.[1]?.trim();
    if (named !== undefined && (text.trimEnd().endsWith(':') || named.endsWith('Descriptor'))) return this.enter(sections[named] ?? null);
    const speed = /^Negotiated speed:.*?\(?([\d.]+)\s?([MG])bps\)?/i.exec(text.trim());
    if (speed && this.device) this.device.toldSpeed = speedAt(Number(speed[1]) * (speed[2]?.toUpperCase() === 'G' ? 1000 : 1));
    const field = /^\s+([a-zA-Z]\w*)\s+(\S+)(?:\s+(.*))?$/.exec(text);
    if (field) this.field(field[1] as string, field[2] as string, field[3] ?? '', number);
  }

  private begin(vid: string, pid: string, name: string | undefined): void {
    this.device = { ...emptyDevice(), vid: vid.toLowerCase(), pid: pid.toLowerCase(), ...(name ? { name: name.slice(0, 120) } : {}) };
    this.devices.push(this.device);
    [this.section, this.interface, this.endpoint, this.association, this.configurations] = [null, null, null, null, 0];
  }

  private enter(section: Section): void {
    // a device’s own descriptor may stand alone, without the line of its bus
    if (section === 'device' && (!this.device || this.configurations > 0)) this.begin('0000', '0000', undefined);
    this.section = section;
    if (section === null) return;
    const { device } = this;
    if (!device) return;
    const none = { class: '00', subclass: '00', protocol: '00' };
    switch (section) {
      case 'configuration':
        this.configurations++;
        this.interface = null;
        break;
      case 'interface':
        this.interface = { number: 0, alternate: 0, ...none, endpoints: [] };
        if (this.configurations <= 1) device.interfaces.push(this.interface);
        break;
      case 'association':
        this.association = { first: 0, count: 0, ...none };
        if (this.configurations <= 1) device.associations.push(this.association);
        break;
      case 'device':
        break;
      case 'endpoint':
        this.endpoint = { address: 0, transfer: 'control', packetBytes: 0, packets: 1, interval: 0 };
        this.interface?.endpoints.push(this.endpoint);
    }
  }

  private field(name: string, value: string, rest: string, line: number): void {
    const { device } = this;
    if (!device || this.section === null) return;
    const read = (): number => {
      const number = /^0x[0-9a-f]+$/i.test(value) ? parseInt(value, 16) : /^\d+(mA)?$/.test(value) ? parseInt(value, 10) : NaN;
      if (Number.isNaN(number) || number > 0xffff) throw new UsbError(`${name} is “${value.slice(0, 40)}”, which is no number`, line);
      return number;
    };
    const version = () => /^(\d+)\.(\d\d)$/.exec(value);
    switch (this.section) {
      case 'device':
        if (name === 'idVendor') device.vid = hex4(read());
        else if (name === 'idProduct') {
          device.pid = hex4(read());
          if (rest && !device.name) device.name = rest.slice(0, 120);
        } else if (name === 'bDeviceClass') device.class = hex2(read() & 0xff);
        else if (name === 'bDeviceSubClass') device.subclass = hex2(read() & 0xff);
        else if (name === 'bDeviceProtocol') device.protocol = hex2(read() & 0xff);
        else if (name === 'bcdUSB' || name === 'bcdDevice') {
          const found = version();
          if (!found) throw new UsbError(`${name} is “${value.slice(0, 40)}”, which is no version`, line);
          const [, high, low] = found as unknown as [string, string, string];
          if (name === 'bcdUSB') device.usbBcd = (parseInt(high, 16) << 8) | parseInt(low, 16);
          else device.revision = `${high.padStart(2, '0')}.${low}`;
        }
        return;
      case 'configuration':
        if (name === 'MaxPower' && this.configurations === 1) device.maxPowerMa = read();
        return;
      case 'interface':
        if (this.interface) takeInterface(this.interface, name, read);
        return;
      case 'association':
        if (this.association) takeAssociation(this.association, name, read);
        return;
      case 'endpoint':
        if (this.endpoint) takeEndpoint(this.endpoint, name, read);
    }
  }
}

function takeInterface(to: UsbInterface, name: string, read: () => number): void {
  if (name === 'bInterfaceNumber') to.number = read();
  else if (name === 'bAlternateSetting') to.alternate = read();
  else if (name === 'bInterfaceClass') to.class = hex2(read() & 0xff);
  else if (name === 'bInterfaceSubClass') to.subclass = hex2(read() & 0xff);
  else if (name === 'bInterfaceProtocol') to.protocol = hex2(read() & 0xff);
}
function takeAssociation(to: Association, name: string, read: () => number): void {
  if (name === 'bFirstInterface') to.first = read();
  else if (name === 'bInterfaceCount') to.count = read();
  else if (name === 'bFunctionClass') to.class = hex2(read() & 0xff);
  else if (name === 'bFunctionSubClass') to.subclass = hex2(read() & 0xff);
  else if (name === 'bFunctionProtocol') to.protocol = hex2(read() & 0xff);
}
function takeEndpoint(to: UsbEndpoint, name: string, read: () => number): void {
  if (name === 'bEndpointAddress') to.address = read();
  else if (name === 'bmAttributes') to.transfer = transfers[read() & 3] as UsbEndpoint['transfer'];
  else if (name === 'bInterval') to.interval = read();
  else if (name === 'wMaxPacketSize') {
    const size = read();
    to.packetBytes = size & 0x7ff;
    to.packets = ((size >> 11) & 3) + 1;
  }
}

/**
 * Reads the text that `lsusb -v` prints, of one device or many.
 * @throws {UsbError} with the line on which something makes no sense, or where no device is in it
 */
export function readLsusb(text: string): UsbDevice[] {
  const lines = text.split(/\r?\n/);
  if (lines.length > mostLines) throw new UsbError(`has more than ${mostLines} lines`, mostLines);
  const reading = new Reading();
  lines.forEach((line, i) => reading.line(line.slice(0, 500), i + 1));
  const { devices } = reading;
  if (devices.length === 0) throw new UsbError('holds no device: neither a line “Bus … Device … ID” nor a “Device Descriptor:”', 1);
  const empty = devices.find(({ interfaces, class: code }) => interfaces.length === 0 && code === '00');
  if (empty) throw new UsbError(`tells nothing of ${empty.vid}:${empty.pid} but its name: print it with -v`, 1);
  return devices;
}
