import type { ConfigFile, ConfigServer, Endpoint, Firmware, FleetClass, Gateway, Location, Scope } from '@underpass/contracts';
import { shippedAssumed, type Assumed } from '../../assumed/index.js';

/** What the start of one endpoint rests on. */
export interface BootFacts {
  endpoint: Endpoint;
  location: Location;
  /** What devices of its class say and read; null where nobody described them. */
  fleet: FleetClass | null;
  /** Scopes of its location, as they stand in the estate. */
  scopes: readonly Scope[];
  servers: readonly ConfigServer[];
  /** Files for it, in the order in which they are merged. */
  files: readonly ConfigFile[];
  /** Firmware for its class. */
  firmware: readonly Firmware[];
  gatewayAt: (address: string) => Gateway | undefined;
  assumed: Assumed;
  /** When it is switched on, ms since 1970. */
  atMs: number;
}

/** The objects of an estate that a start rests on; each list may be gone through several times. */
export interface BootEstate {
  endpoint: (id: string) => Endpoint | undefined;
  location: (id: string) => Location | undefined;
  deviceClass: Iterable<FleetClass>;
  scope: Iterable<Scope>;
  configServer: Iterable<ConfigServer>;
  configFile: Iterable<ConfigFile>;
  firmware: Iterable<Firmware>;
  gateway: Iterable<Gateway>;
  assumed?: Assumed;
}

/** Layers of configuration files, in the order in which they are merged. */
const layers = ['organisation', 'device class', 'location', 'endpoint'] as const;

/** Reads what the start of any endpoint rests on: the few kinds there are of are looked through once. */
export class BootReader {
  private readonly fleet: ReadonlyMap<string, FleetClass>;
  private readonly scopes: ReadonlyMap<string, readonly Scope[]>;
  private readonly files: ReadonlyMap<string, readonly ConfigFile[]>;
  private readonly firmware: ReadonlyMap<string, readonly Firmware[]>;
  private readonly servers: readonly ConfigServer[];
  private readonly gateways: ReadonlyMap<string, Gateway>;

  constructor(
    private readonly estate: BootEstate,
    private readonly atMs: number,
  ) {
    this.fleet = new Map([...estate.deviceClass].map((each) => [each.id, each]));
    this.scopes = grouped(estate.scope, ({ location }) => location);
    this.files = grouped(estate.configFile, ({ layer, target }) => `${layer}/${target}`);
    this.firmware = grouped(estate.firmware, ({ deviceClass }) => deviceClass);
    this.servers = [...estate.configServer];
    this.gateways = new Map([...estate.gateway].map((each) => [each.address.toLowerCase(), each]));
  }

  /** Whether anybody described how devices of a class start. */
  isDescribed(deviceClass: string): boolean {
    return this.fleet.has(deviceClass);
  }

  /** Facts of an endpoint; null where there is none of that id. */
  read(id: string): BootFacts | null {
    const endpoint = this.estate.endpoint(id);
    const location = endpoint && this.estate.location(endpoint.location);
    if (!endpoint || !location) return null;
    const target = { organisation: '*', 'device class': endpoint.deviceClass, location: location.id, endpoint: endpoint.id };
    return {
      endpoint,
      location,
      fleet: this.fleet.get(endpoint.deviceClass) ?? null,
      scopes: this.scopes.get(location.id) ?? [],
      servers: this.servers,
      files: layers.flatMap((layer) => this.files.get(`${layer}/${target[layer]}`) ?? []),
      firmware: this.firmware.get(endpoint.deviceClass) ?? [],
      gatewayAt: (address) => this.gateways.get(address.toLowerCase()),
      assumed: this.estate.assumed ?? shippedAssumed,
      atMs: this.atMs,
    };
  }
}

function grouped<T>(all: Iterable<T>, by: (one: T) => string): Map<string, T[]> {
  const found = new Map<string, T[]>();
  for (const one of all) {
    const key = by(one);
    const list = found.get(key);
    if (list) list.push(one);
    else found.set(key, [one]);
  }
  return found;
}
