import { createHash } from 'node:crypto';
import { ConfigFile, ConfigServer, Endpoint, Firmware, FleetClass, Gateway, Location, Scope } from '@underpass/contracts';
import { BootReader, type BootCause, type BootFacts, type BootStepName } from '../src/bringup/index.js';

/** 10:00 on 25 November 2026, UTC. */
const instant = Date.UTC(2026, 10, 25, 10);
const sum = (text: string) => createHash('sha256').update(text).digest('hex');
type Otherwise<T> = Partial<Record<keyof T, unknown>>;

/** What a start has otherwise than the plain one, which reaches its sign-in screen. */
export interface OtherStart {
  endpoint?: Otherwise<Endpoint>;
  location?: Otherwise<Location>;
  fleet?: Otherwise<FleetClass> | null;
  scopes?: Otherwise<Scope>[];
  /** Options in place of those of the plain scope, by number; null takes one away. */
  options?: Record<number, { type: string; value: string } | null>;
  server?: Otherwise<ConfigServer>;
  /** Text of the file for the endpoint, beside that of the organisation. */
  own?: string;
  /** Text of the file for the organisation. */
  all?: string;
  /** A sum that the list has of the file for the endpoint. */
  listed?: string;
  firmware?: Otherwise<Firmware>[];
  gateway?: Otherwise<Gateway>;
}

const scope = {
  ...{ id: 'hall-lan', location: 'hall', server: '192.0.2.2', addressRange: '192.0.2.50-192.0.2.60', free: 5, leaseS: 3600 },
};
const options = (more: OtherStart['options'] = {}) =>
  Object.entries({
    3: { type: 'address', value: '192.0.2.1' },
    226: { type: 'text', value: 'http://192.0.2.10/config' },
    ...more,
  }).flatMap(([code, said]) => (said ? [{ code: Number(code), ...said }] : []));
const organisation = '[broker]\naddress = gate.example\n';

/** Facts of a start: a thin client by cable at a hall that gives all it needs, but for what is said otherwise. */
export function startOf(other: OtherStart = {}): BootFacts {
  const endpoint = Endpoint.parse({
    ...{ id: 'tc-1', name: 'TC 1', location: 'hall', deviceClass: 'thin-client', ownership: 'managed', platform: 'thin' },
    ...{
      processor: 'x86-64',
      clientKind: 'thin-client firmware',
      clientVersion: '4.12',
      connection: 'wired',
      cable: true,
      firmware: '4.12.1',
    },
    ...other.endpoint,
  });
  const location = Location.parse({
    ...{ id: 'hall', name: 'Hall', kind: 'office', latitude: 55, longitude: 3, lineKind: 'fibre', downMbps: 100, upMbps: 20 },
    ...other.location,
  });
  const fleet = { id: 'thin-client', vendorClass: 'saltmarsh-tc', serverOption: { code: 226, type: 'text' }, ...other.fleet };
  const scopes = other.scopes ?? [{}];
  const files = [
    { id: 'all', layer: 'organisation', target: '*', text: other.all ?? organisation },
    ...(other.own === undefined ? [] : [{ id: 'tc-1', layer: 'endpoint', target: 'tc-1', text: other.own }]),
  ];
  const estate = {
    endpoint: (id: string) => (id === endpoint.id ? endpoint : undefined),
    location: (id: string) => (id === location.id ? location : undefined),
    deviceClass: other.fleet === null ? [] : [FleetClass.parse(fleet)],
    scope: scopes.map((each, i) =>
      Scope.parse({ ...scope, ...(i ? { id: `hall-lan-${i + 1}` } : {}), options: options(other.options), ...each }),
    ),
    configServer: [ConfigServer.parse({ id: 'bringup', address: '192.0.2.10', ...other.server })],
    configFile: files.map((file) =>
      ConfigFile.parse({ ...file, sha256: file.id === 'tc-1' && other.listed !== undefined ? other.listed : sum(file.text) }),
    ),
    firmware: (other.firmware ?? [{}]).map((each, i) =>
      Firmware.parse({ id: `fw-${i}`, deviceClass: 'thin-client', version: '4.12.1', processor: 'x86-64', sizeMB: 100, ...each }),
    ),
    gateway: [
      Gateway.parse({
        ...{ id: 'GW', name: 'Main gateway', region: 'near', address: 'gate.example', securityModes: ['tls'] },
        certificate: { names: ['gate.example'], notBefore: '2026-01-01', notAfter: '2027-12-31', trust: 'public' },
        ...other.gateway,
      }),
    ],
  };
  const facts = new BootReader(estate, instant).read('tc-1');
  if (!facts) throw new Error('there is no such endpoint');
  return facts;
}

const wifi = (has: object, wanted: object, more: object = {}): OtherStart => ({
  endpoint: { connection: 'wifi', cable: undefined, wifi: has, ...more },
  location: { wifi: wanted },
});
const hall = { name: 'Hall-net', security: 'WPA', key: 'Ebb-at-eleven' };
const text = (value: string): OtherStart => ({ options: { 226: { type: 'text', value } } });
const certificate = (change: object): OtherStart => ({
  gateway: { certificate: { names: ['gate.example'], notBefore: '2026-01-01', notAfter: '2027-12-31', trust: 'public', ...change } },
});

/** A start that each cause breaks, and one as near as can be that it does not. */
export const bootFaults: Record<BootCause, { step: BootStepName; planted: string; hit: OtherStart; miss: OtherStart }> = {
  'cable out': { step: 'link up', planted: 'cable pulled', hit: { endpoint: { cable: false } }, miss: { endpoint: { cable: undefined } } },
  'wifi not set': { step: 'link up', planted: 'no network name on the device', hit: wifi({}, hall), miss: wifi(hall, hall) },
  'wifi name differs': {
    step: 'link up',
    planted: 'another network name',
    hit: wifi({ ...hall, name: 'Guests' }, hall),
    miss: wifi(hall, hall),
  },
  'wifi name in other letters': {
    ...{ step: 'link up', planted: 'network name without its capital' },
    ...{ hit: wifi({ ...hall, name: 'hall-net' }, hall), miss: wifi(hall, hall) },
  },
  'wifi security differs': {
    ...{ step: 'link up', planted: 'WPA3 on the device, WPA2 at the place' },
    ...{ hit: wifi({ ...hall, security: 'SAE' }, hall), miss: wifi({ ...hall, security: undefined }, hall) },
  },
  'wifi key missing': {
    step: 'link up',
    planted: 'no key on the device',
    hit: wifi({ name: 'Hall-net' }, hall),
    miss: wifi({ name: 'Hall-net' }, { name: 'Hall-net', security: 'nopass' }),
  },
  'wifi key wrong': { step: 'link up', planted: 'another key', hit: wifi({ ...hall, key: 'Ebb-at-seven' }, hall), miss: wifi(hall, hall) },
  'wifi key in other letters': {
    step: 'link up',
    planted: 'key without its capital',
    hit: wifi({ ...hall, key: 'ebb-at-eleven' }, hall),
    miss: wifi(hall, hall),
  },
  'wifi too weak': {
    step: 'link up',
    planted: '−83 dBm',
    hit: wifi(hall, hall, { wifiSignalDbm: -83 }),
    miss: wifi(hall, hall, { wifiSignalDbm: -82 }),
  },
  'no scope': { step: 'DHCP', planted: 'no scope at the place', hit: { scopes: [] }, miss: { scopes: [{ free: 1 }] } },
  'addresses used up': {
    step: 'DHCP',
    planted: 'no address free',
    hit: { scopes: [{ free: 0 }] },
    miss: { scopes: [{ free: 0 }, { free: 1 }] },
  },
  'range unreadable': {
    step: 'DHCP',
    planted: 'range written backwards',
    hit: { scopes: [{ addressRange: '192.0.2.60-192.0.2.50' }] },
    miss: { scopes: [{ addressRange: '192.0.2.50-192.0.2.50' }] },
  },
  'class not described': { step: 'options found', planted: 'nobody described the device class', hit: { fleet: null }, miss: {} },
  'option missing': { step: 'options found', planted: 'option left out of the scope', hit: { options: { 226: null } }, miss: {} },
  'option for another class': {
    ...{ step: 'options found', planted: 'option given to another vendor class' },
    ...{ hit: { scopes: [{ vendorClass: 'saltmarsh-kiosk' }] }, miss: { scopes: [{ vendorClass: 'saltmarsh-tc' }] } },
  },
  'option under another number': {
    ...{ step: 'options found', planted: 'value under option 225 instead of 226' },
    ...{
      hit: { options: { 226: null, 225: { type: 'text', value: 'http://192.0.2.10/config' } } },
      miss: { options: { 225: { type: 'text', value: 'http://192.0.2.10/config' } } },
    },
  },
  'address where text is read': {
    step: 'options found',
    planted: 'option as an address, text is read',
    hit: { options: { 226: { type: 'address', value: '192.0.2.10' } } },
    miss: text('192.0.2.10'),
  },
  'text where an address is read': {
    ...{ step: 'options found', planted: 'option as text, an address is read' },
    hit: { fleet: { serverOption: { code: 226, type: 'address' } } },
    miss: { fleet: { serverOption: { code: 226, type: 'address' } }, options: { 226: { type: 'address', value: '192.0.2.10' } } },
  },
  'option empty': { step: 'options found', planted: 'option with nothing in it', hit: text(''), miss: {} },
  'option given twice': {
    ...{ step: 'options found', planted: 'option twice in one scope' },
    hit: { scopes: [{ options: options().concat(options().filter(({ code }) => code === 226)) }] },
    miss: { scopes: [{ options: options() }] },
  },
  'option with blanks': { step: 'options found', planted: 'a blank behind the address', hit: text('http://192.0.2.10/config '), miss: {} },
  'option is no address': {
    step: 'options found',
    planted: 'an address of five numbers',
    hit: text('192.0.2.10.7'),
    miss: text('192.0.2.10'),
  },
  'option of another protocol': {
    step: 'options found',
    planted: 'tftp instead of http',
    hit: text('tftp://192.0.2.10/config'),
    miss: text('http://192.0.2.10/config'),
  },
  'server unknown': {
    step: 'configuration server reached',
    planted: 'address of no settings server',
    hit: text('http://203.0.113.77/'),
    miss: {},
  },
  'server misspelt': {
    ...{ step: 'configuration server reached', planted: 'one letter of its name wrong' },
    hit: { ...text('http://confg.example/'), server: { address: 'config.example' } },
    miss: { ...text('http://Config.example/'), server: { address: 'config.example' } },
  },
  'server on another port': {
    ...{ step: 'configuration server reached', planted: 'port 8080 left out' },
    hit: { server: { address: '192.0.2.10:8080' } },
    miss: { server: { address: 'http://192.0.2.10:80' } },
  },
  'server silent': {
    step: 'configuration server reached',
    planted: 'server switched off',
    hit: { server: { reachable: false } },
    miss: {},
  },
  'file sum differs': {
    ...{ step: 'configuration files fetched and merged', planted: 'file changed after it was signed' },
    hit: { own: '[picture]\nframeCap = 24\n', listed: sum('[picture]\nframeCap = 30\n') },
    miss: { own: '[picture]\nframeCap = 24\n', listed: sum('[picture]\nframeCap = 24\n').toUpperCase() },
  },
  'line without equals': {
    step: 'configuration files fetched and merged',
    planted: 'a line without “=”',
    hit: { own: '[picture]\nframeCap 24\n' },
    miss: { own: '[picture]\nframeCap =\n' },
  },
  'line without key': {
    step: 'configuration files fetched and merged',
    planted: 'a line without a key',
    hit: { own: '[picture]\n= 24\n' },
    miss: { own: '[picture]\n; = 24\n' },
  },
  'section not closed': {
    step: 'configuration files fetched and merged',
    planted: 'a section without “]”',
    hit: { own: '[picture\nframeCap = 24\n' },
    miss: { own: '[picture] behind\nframeCap = 24\n' },
  },
  'firmware for another processor': {
    ...{ step: 'firmware compared', planted: 'firmware for another processor alone' },
    hit: { firmware: [{ processor: 'arm64' }] },
    miss: { firmware: [{ processor: 'arm64' }, { processor: 'x86-64' }] },
  },
  'clock wrong': {
    step: 'time set',
    planted: 'clock more than an hour off, no time server',
    hit: { endpoint: { clock: '-3601' } },
    miss: { endpoint: { clock: '-3600' } },
  },
  'time server as text': {
    ...{ step: 'time set', planted: 'clock wrong, option 42 as text' },
    hit: { endpoint: { clock: 'wrong' }, options: { 42: { type: 'text', value: '192.0.2.4' } } },
    miss: { endpoint: { clock: 'wrong' }, options: { 42: { type: 'address', value: '192.0.2.4' } } },
  },
  'broker missing': {
    step: 'broker address known',
    planted: 'no section of the broker',
    hit: { all: '[picture]\nframeCap = 30\n' },
    miss: {},
  },
  'broker switched off': {
    step: 'broker address known',
    planted: 'section of the broker commented out',
    hit: { all: ';[broker]\n;address = gate.example\n' },
    miss: {},
  },
  'broker empty': { step: 'broker address known', planted: 'address of the broker empty', hit: { all: '[broker]\naddress =\n' }, miss: {} },
  'broker in another section': {
    step: 'broker address known',
    planted: 'address in another section',
    hit: { all: '[portal]\naddress = gate.example\n' },
    miss: {},
  },
  'broker misspelt': {
    step: 'broker address known',
    planted: 'key written adress',
    hit: { all: '[broker]\nadress = gate.example\n' },
    miss: {},
  },
  'broker is no name': {
    step: 'broker address known',
    planted: 'address with http://',
    hit: { all: '[broker]\naddress = https://gate.example\n' },
    miss: {},
  },
  'certificate ended': {
    step: 'sign-in screen',
    planted: 'certificate ended yesterday',
    hit: certificate({ notAfter: '2026-11-24' }),
    miss: certificate({ notAfter: '2026-11-25' }),
  },
  'certificate not yet': {
    step: 'sign-in screen',
    planted: 'certificate of tomorrow',
    hit: certificate({ notBefore: '2026-11-26' }),
    miss: certificate({ notBefore: '2026-11-25' }),
  },
  'certificate for another name': {
    step: 'sign-in screen',
    planted: 'certificate of another name',
    hit: certificate({ names: ['*.other.example'] }),
    miss: certificate({ names: ['*.example'] }),
  },
  'certificate not trusted': {
    step: 'sign-in screen',
    planted: 'certificate nobody trusts',
    hit: certificate({ trust: 'none' }),
    miss: certificate({ trust: 'organisation' }),
  },
  'client too old': {
    ...{ step: 'sign-in screen', planted: 'client below what the gateway takes' },
    hit: { gateway: { clientFloors: { 'thin-client firmware': '4.12.1' } } },
    miss: { gateway: { clientFloors: { 'thin-client firmware': '4.12' } } },
  },
};
