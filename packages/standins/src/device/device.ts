import type { BootReport, Endpoint, FleetClass, Location } from '@underpass/contracts';
import { asks, decodeDhcp, encodeDhcp, mergeConfig, placeOf, sealedAlike, typeOf, versionOrder, type DhcpMessage } from '@underpass/core';
import { createHash, verify } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { fetchFirmware } from './firmware.js';
import { signIn } from './signIn.js';
import { Stopped } from './stopped.js';

/** A device as it comes out of its box and is put on a desk. */
export interface Device {
  endpoint: Endpoint;
  location: Location;
  fleet: FleetClass;
  /** Port of the server of addresses of its place, on the own machine. */
  addressPort: number;
  /** What answers at a name or an address that the device is told; undefined where nothing does. */
  reach: (host: string) => string | undefined;
  /** The key that lists are signed with, as it was given to the device. */
  key: string;
  /** Key with which it tells how it started; without one it tells nobody. */
  deviceKey?: string;
  /** How long an answer of the server of addresses is waited for, ms; a real one waits 4 s and longer. */
  patienceMs?: number;
  /** After so many bytes of firmware its line breaks, again and again, and it goes on where it stopped. */
  breaksAfterBytes?: number;
  /** The portal that plays those at the address where it signs in, of the own machine; without one it stops at its sign-in screen. */
  portal?: (broker: string) => string | undefined;
  /** Now, for its clock. */
  nowMs: number;
}

/** How a start went: the step that broke, if any, and how long each fetch of a file took. */
export interface Started {
  brokenStep: string | null;
  detail: string;
  values: { section: string; key: string; value: string }[];
  firmware: string | undefined;
  /** Bytes of firmware that it fetched, and in how many parts. */
  fetched: { bytes: number; parts: number };
  /** The page that its person comes to; without one the page to sign in on; null where no portal is there. */
  signIn: string | null;
  fetchMs: number[];
  seconds: number;
}

/** Starts a device for real: it asks for an address over UDP, fetches its files over HTTP, checks, merges and compares, and tells how it went. */
export async function start(device: Device): Promise<Started> {
  const from = performance.now();
  const done: Started = {
    brokenStep: null,
    detail: '',
    values: [],
    firmware: device.endpoint.firmware,
    fetched: { bytes: 0, parts: 0 },
    signIn: null,
    fetchMs: [],
    seconds: 0,
  };
  let base: string | undefined;
  try {
    link(device);
    const told = await address(device);
    const host = server(device, told);
    base = device.reach(host);
    if (base === undefined) throw new Stopped('configuration server reached', `nothing answers at ${host}`);
    const { texts, firmware } = await files(device, base, done.fetchMs);
    const merged = mergeConfig(texts);
    const [unread] = merged.unread;
    if (unread) throw new Stopped('configuration files fetched and merged', `${unread.file}, line ${unread.line}: ${unread.text}`);
    done.values = merged.values;
    const offered = chosen(device, firmware);
    if (offered?.sum !== undefined && differs(device, offered)) done.fetched = await fetchFirmware(base, device, offered.id, offered.sum);
    if (offered && device.endpoint.firmware !== undefined) done.firmware = offered.version;
    clock(device, told);
    const broker = merged.values.find(({ section, key }) => section === 'broker' && key === 'address')?.value ?? '';
    if (!/^[a-z0-9.-]+$/i.test(broker)) throw new Stopped('broker address known', broker === '' ? 'no broker' : `“${broker}” is no broker`);
    done.detail = `signs in at ${broker}`;
    done.signIn = await signIn(device.portal?.(broker), broker, device.endpoint.person);
  } catch (error) {
    if (!(error instanceof Stopped)) throw error;
    [done.brokenStep, done.detail] = [error.step, error.message];
  }
  done.seconds = (performance.now() - from) / 1000;
  await tell(device, base, done);
  return done;
}

function link({ endpoint, location }: Device): void {
  const stop = (text: string) => {
    throw new Stopped('link up', text);
  };
  if (endpoint.connection !== 'wifi') {
    if (endpoint.cable === false) stop('no cable');
    return;
  }
  const [has, wanted] = [endpoint.wifi ?? {}, location.wifi ?? {}];
  if (has.name === undefined || (wanted.name !== undefined && has.name !== wanted.name)) stop('no such network');
  if (wanted.key !== undefined && (has.key === undefined || sealedAlike(has.key, wanted.key) !== true)) stop('the key is not taken');
}

/** Hardware address of a device: locally administered [IEEE 802], made from its id. */
const hardwareOf = (id: string): Uint8Array => {
  const sum = createHash('sha256').update(id).digest();
  return Uint8Array.of(2, ...sum.subarray(0, 5));
};

/** Finds an address; what was told with it. */
async function address({ endpoint, fleet, addressPort, patienceMs = 1000 }: Device): Promise<DhcpMessage> {
  const socket = createSocket('udp4');
  socket.bind(0, '127.0.0.1');
  await once(socket, 'listening');
  const asking = { hardwareAddress: hardwareOf(endpoint.id), xid: createHash('sha256').update(endpoint.id).digest().readUInt32BE(8) };
  try {
    const exchange = async (bytes: Uint8Array | null, wanted: string): Promise<DhcpMessage> => {
      if (!bytes) throw new Stopped('DHCP', 'what is asked does not fit');
      // twice, as a datagram may be lost
      for (let round = 0; round < 2; round++) {
        socket.send(bytes, addressPort, '127.0.0.1');
        const answer = await next(socket, patienceMs, (message) => message.xid === asking.xid && typeOf(message) === wanted);
        if (answer) return answer;
      }
      throw new Stopped('DHCP', 'no address');
    };
    const offer = await exchange(encodeDhcp(asks(asking, fleet)), 'OFFER');
    const server = offer.options.find(({ code }) => code === 54)?.bytes ?? new Uint8Array(4);
    const taken = { address: offer.yourAddress, server: [...server].join('.') };
    return await exchange(encodeDhcp(asks(asking, fleet, taken)), 'ACK');
  } finally {
    socket.close();
  }
}

/** The next datagram that is what is waited for; null where none comes in time. */
function next(
  socket: ReturnType<typeof createSocket>,
  withinMs: number,
  wanted: (message: DhcpMessage) => boolean,
): Promise<DhcpMessage | null> {
  return new Promise((resolve) => {
    const end = (message: DhcpMessage | null) => {
      clearTimeout(timer);
      socket.off('message', take);
      resolve(message);
    };
    const take = (bytes: Buffer) => {
      const { message } = decodeDhcp(new Uint8Array(bytes));
      if (message && wanted(message)) end(message);
    };
    const timer = setTimeout(() => end(null), withinMs);
    socket.on('message', take);
  });
}

/** Where the settings server is, as its class reads it. */
function server({ fleet: { serverOption } }: Device, told: DhcpMessage): string {
  const option = told.options.find(({ code }) => code === serverOption.code);
  if (!option) throw new Stopped('options found', `option ${serverOption.code} is not there`);
  const text =
    serverOption.type === 'address'
      ? option.bytes.length === 4
        ? [...option.bytes].join('.')
        : ''
      : Buffer.from(option.bytes).toString('utf8');
  const place = placeOf(text);
  if (!place || (place.scheme !== 'http' && place.scheme !== 'https'))
    throw new Stopped('options found', `option ${serverOption.code} says no address`);
  return place.host;
}

const filesStep = 'configuration files fetched and merged';
interface Offered {
  id: string;
  version: string;
  processor: string;
  /** Where its bytes are there to be fetched. */
  sum: string | undefined;
}

/** The signed list, and every file of it, in order. */
async function files(
  { endpoint, key }: Device,
  base: string,
  fetchMs: number[],
): Promise<{ texts: { name: string; text: string }[]; firmware: Offered[] }> {
  const get = async (path: string): Promise<string> => {
    const from = performance.now();
    const response = await fetch(`${base}/api/published/${encodeURIComponent(endpoint.id)}/${path}`).catch(() => {
      throw new Stopped('configuration server reached', 'the connection was refused');
    });
    const text = await response.text();
    fetchMs.push(performance.now() - from);
    if (!response.ok) throw new Stopped(filesStep, `${path}: ${response.status}`);
    return text;
  };
  const list = await get('list');
  const [, signed = '', signature = ''] = /^([\s\S]*\n)# signed (\S+)\n$/.exec(list) ?? [];
  if (signature === '' || !verify(null, Buffer.from(signed), key, Buffer.from(signature, 'base64')))
    throw new Stopped(filesStep, 'the list is not signed by the key of this device');
  const version = /^# list (\d+) /.exec(signed)?.[1] ?? '';
  const texts: { name: string; text: string }[] = [];
  for (const [, sum, name] of signed.matchAll(/^([0-9a-f]{64}) {2}(\S+)$/gm)) {
    const text = await get(`files/${encodeURIComponent(name as string)}?version=${version}`);
    if (createHash('sha256').update(text).digest('hex') !== sum) throw new Stopped(filesStep, `${name}: its sum is another`);
    texts.push({ name: name as string, text });
  }
  const firmware = [...signed.matchAll(/^# firmware (\S+) (\S+) (\S+) \S+(?: ([0-9a-f]{64}))?$/gm)].map(
    ([, id = '', of = '', processor = '', sum]) => ({ id, version: of, processor, sum }),
  );
  return { texts, firmware };
}

/** What it is offered of what is put up: the highest for its processor. */
function chosen({ endpoint }: Device, offered: readonly Offered[]): Offered | undefined {
  const right = offered.filter(({ processor }) => processor === endpoint.processor);
  const highest = right.reduce<Offered | undefined>((best, each) => {
    const order = best && versionOrder(each.version, best.version);
    return !best || (order?.ok && order.value > 0) ? each : best;
  }, undefined);
  if (!highest && offered[0]) throw new Stopped('firmware compared', `${offered[0].id} is for ${offered[0].processor}`);
  return highest;
}

/** Higher or lower, it installs what differs from what it has. */
function differs({ endpoint }: Device, offered: Offered): boolean {
  const order = endpoint.firmware === undefined ? null : versionOrder(offered.version, endpoint.firmware);
  return order !== null && !(order.ok && order.value === 0);
}

/** Certificates are held against its clock, unless the network says the time. */
function clock({ endpoint, nowMs }: Device, told: DhcpMessage): void {
  const said = told.options.find(({ code }) => code === 42);
  if (said && said.bytes.length % 4 === 0) return;
  const { clock: shows } = endpoint;
  if (shows === undefined || /^(right|ok|yes)$/.test(shows)) return;
  const offS = /^(wrong|no)$/.test(shows)
    ? Infinity
    : /^[+-]?[\d.]+$/.test(shows)
      ? Math.abs(Number(shows))
      : Math.abs(Date.parse(shows) - nowMs) / 1000;
  if (offS > 3600) throw new Stopped('time set', 'no certificate is valid at the time of this clock');
}

/** Tells how it went, where it knows whom to tell. */
async function tell(
  { endpoint, deviceKey }: Device,
  base: string | undefined,
  { brokenStep, detail, firmware, seconds }: Started,
): Promise<void> {
  if (base === undefined || deviceKey === undefined) return;
  const report: BootReport = {
    endpoint: endpoint.id,
    brokenStep,
    detail: detail.slice(0, 300),
    seconds,
    ...(firmware === undefined ? {} : { firmware }),
  };
  await fetch(`${base}/api/published/reports`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-underpass': '1', 'x-device-key': deviceKey },
    body: JSON.stringify(report),
  }).catch(() => undefined);
}
