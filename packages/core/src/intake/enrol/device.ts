import type { DeviceReport, Endpoint, Location, PeripheralKind, Screen } from '@underpass/contracts';
import { sortOf, tripleOf } from '../../redirection/usb/index.js';
import { readEdid } from '../../screens/edid/index.js';
import { prefixIn } from './addressRange.js';

/** Words that systems have for the processors we know [uname -m; environment of the other family]; common practice, no source. */
const processors: Readonly<Record<string, Endpoint['processor']>> = {
  ...{ x86_64: 'x86-64', amd64: 'x86-64', x64: 'x86-64', em64t: 'x86-64' },
  ...{ aarch64: 'arm64', arm64: 'arm64', armv8l: 'arm64' },
  ...{ armv7l: 'armhf', armv6l: 'armhf', armhf: 'armhf' },
};

/**
 * What an enclosure is [DMTF DSP0134 7.4.1, typed from memory]; of the others nothing is said. That it stands on a desk does not make it
 * a computer: thin clients are in the same enclosures.
 */
const enclosures: Readonly<Record<number, Endpoint['deviceClass']>> = {
  ...{ 8: 'laptop', 9: 'laptop', 10: 'laptop', 14: 'laptop', 31: 'laptop', 32: 'laptop' },
  ...{ 11: 'phone', 30: 'tablet' },
};
/** Kinds of peripheral that a plugged-in function says; sticks come and go, and what is of its maker’s own may be anything. */
const told: readonly PeripheralKind[] = ['headset', 'camera', 'card-reader', 'printer', 'scanner'];

/** A clock that is further off than this says so, s: within it the way of the report may be all; common practice, no source. */
const clockOffS = 60;

const bytesOf = (hex: string): Uint8Array => Uint8Array.from(hex.match(/../g) ?? [], (pair) => Number.parseInt(pair, 16));

/** A screen by what it says of itself: the mode it wants most. */
function screenOf({ port, edid }: DeviceReport['screens'][number]): Screen[] {
  const read = edid === '' ? null : readEdid(bytesOf(edid));
  const mode = read?.ok ? read.value.preferred : null;
  if (!read?.ok || !mode || mode.widthPx < 320 || mode.heightPx < 240) return [];
  const { name } = read.value;
  const refreshHz = Math.round(mode.refreshHz * 100) / 100;
  return [
    {
      ...(name ? { name } : {}),
      ...{ widthPx: mode.widthPx, heightPx: mode.heightPx, scale: 1 },
      ...(refreshHz >= 1 && refreshHz <= 500 ? { refreshHz } : {}),
      // as the system names its connectors: eDP-1, LVDS-1 are of the device itself
      ...(/(^|-)(eDP|LVDS|DSI)-/i.test(port) ? { port: 'internal' as const } : {}),
    },
  ];
}

const peripheralsOf = (usb: DeviceReport['usb']): PeripheralKind[] =>
  told.filter((kind) => usb.some(({ classes }) => classes.some((code) => !code.startsWith('ff') && sortOf(tripleOf(code)).kind === kind)));

/** How far a clock is off, as an endpoint says it: the seconds, or that it is right. */
function clockOf(time: string, atMs: number): string | undefined {
  const off = Math.round((Date.parse(time) - atMs) / 1000);
  return Number.isNaN(off) ? undefined : Math.abs(off) <= clockOffS ? 'right' : String(off);
}

/** What it runs: held in the hand it is said by its class; else only where whoever runs the script names the class. */
function platformOf(given: DeviceReport['class'], found: Endpoint['deviceClass'] | undefined): Endpoint['platform'] | undefined {
  if (found === 'phone' || found === 'tablet') return 'mobile';
  return given === undefined ? undefined : given === 'thin-client' ? 'thin' : 'desktop';
}

/** Fields of an endpoint that a device tells of itself. What it does not tell is left out. */
export type ReportedFields = Partial<
  Pick<
    Endpoint,
    | 'platform'
    | 'processor'
    | 'deviceClass'
    | 'cores'
    | 'memoryMB'
    | 'model'
    | 'screens'
    | 'peripherals'
    | 'connection'
    | 'wifiSignalDbm'
    | 'clientKind'
    | 'clientVersion'
    | 'clock'
  >
>;

/**
 * What a report says of an endpoint.
 * @param atMs when it came, ms since 1970: the device's clock is held against it
 */
export function reportedFields(report: DeviceReport, atMs: number): ReportedFields {
  const { machine, cpus, memoryKB, chassis, connection, signalDbm, usb, client, model, time } = report;
  const deviceClass = report.class ?? (chassis === undefined ? undefined : enclosures[chassis]);
  const processor = machine === undefined ? undefined : processors[machine.toLowerCase()];
  const memoryMB = memoryKB === undefined ? undefined : Math.round(memoryKB / 1024);
  const screens = report.screens.flatMap(screenOf);
  const peripherals = peripheralsOf(usb);
  const clock = time === undefined ? undefined : clockOf(time, atMs);
  const platform = platformOf(report.class, deviceClass);
  return {
    ...(platform ? { platform } : {}),
    ...(processor ? { processor } : {}),
    ...(deviceClass ? { deviceClass } : {}),
    ...(cpus !== undefined && cpus <= 256 ? { cores: cpus } : {}),
    ...(memoryMB !== undefined && memoryMB >= 64 && memoryMB <= 4_194_304 ? { memoryMB } : {}),
    ...(model?.trim() ? { model: model.trim() } : {}),
    ...(screens.length ? { screens } : {}),
    ...(peripherals.length ? { peripherals } : {}),
    ...(connection ? { connection } : {}),
    ...(connection === 'wifi' && signalDbm !== undefined && signalDbm >= -110 ? { wifiSignalDbm: signalDbm } : {}),
    ...(client?.kind ? { clientKind: client.kind } : {}),
    ...(client?.version && /^\d/.test(client.version) ? { clientVersion: client.version } : {}),
    ...(clock ? { clock } : {}),
  };
}

/** The place whose address range holds an address of a device, the narrowest one; null where none does, or two are as narrow. */
export function likelyPlace(
  locations: Iterable<Pick<Location, 'id' | 'addressRange'>>,
  addresses: readonly string[],
): { id: string; address: string; range: string } | null {
  const found = [...locations].flatMap(({ id, addressRange: range }) =>
    range === undefined
      ? []
      : addresses.flatMap((address) => {
          const prefix = prefixIn(address, range);
          return prefix === null ? [] : [{ id, address, range, prefix }];
        }),
  );
  const narrowest = found.reduce((most, { prefix }) => Math.max(most, prefix), 0);
  const [first, ...others] = found.filter(({ prefix }) => prefix === narrowest);
  return first && others.every(({ id }) => id === first.id) ? { id: first.id, address: first.address, range: first.range } : null;
}

/** The endpoint that a device is: the one of its name, or whose id is its name; null where there is none, or more than one. */
export function likelyEndpoint(endpoints: Iterable<Pick<Endpoint, 'id' | 'name'>>, name: string): string | null {
  const wanted = name.trim().toLowerCase();
  // the part before the first dot of a full name
  const short = wanted.split('.')[0];
  const found = [...endpoints].filter((each) =>
    [each.id, each.name].some((text) => text.toLowerCase() === wanted || text.toLowerCase() === short),
  );
  return wanted !== '' && found.length === 1 ? (found[0]?.id ?? null) : null;
}
