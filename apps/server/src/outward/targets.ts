import { lookup } from 'node:dns/promises';
import { BlockList, isIP } from 'node:net';
import { plainAddress } from '../edge/plainAddress.js';
import { ProblemError } from '../problems/problem.js';

/** Where to connect to: the address itself, so that a name that is looked up twice leads nowhere else, and the name it has to prove. */
export interface Target {
  host: string;
  address: string;
  port: number;
}

/** The machines that this server may connect to because somebody gave their address: those that whoever runs it named, and no others. */
export class AllowedTargets {
  private readonly names = new Set<string>();
  private readonly endings: string[] = [];
  private readonly list = new BlockList();

  /** @param written names, `*.example.org`, addresses or ranges in CIDR form, comma separated */
  constructor(written: string) {
    for (const part of written.split(',').map((each) => each.trim().toLowerCase())) {
      if (part === '') continue;
      const [address = '', bits] = part.split('/');
      const family = isIP(address);
      if (family !== 0 && (bits === undefined || /^\d{1,3}$/.test(bits)))
        this.list.addSubnet(address, bits === undefined ? (family === 4 ? 32 : 128) : Number(bits), family === 4 ? 'ipv4' : 'ipv6');
      else if (/^\*\.[a-z0-9.-]+$/.test(part)) this.endings.push(part.slice(1));
      else if (/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/.test(part)) this.names.add(part);
      else throw new Error(`ALLOWED_TARGETS: “${part}” is no name, address or range`);
    }
  }

  private allowsAddress(address: string): boolean {
    const family = isIP(address);
    return family !== 0 && this.list.check(address, family === 4 ? 'ipv4' : 'ipv6');
  }
  private allowsName(host: string): boolean {
    return this.names.has(host) || this.endings.some((ending) => host.endsWith(ending) && host.length > ending.length);
  }

  /**
   * The address of a machine that may be connected to.
   * @throws ProblemError 403 where it may not, 422 where the name leads nowhere
   */
  async of(given: string, port: number): Promise<Target> {
    const host = given
      .toLowerCase()
      .replace(/^\[|\]$/g, '')
      .replace(/\.$/, '');
    const refused = new ProblemError(
      403,
      'Not allowed',
      `This server may not connect to ${host}. Whoever runs it names it in ALLOWED_TARGETS, by name, address or range.`,
    );
    if (isIP(host)) {
      if (!this.allowsAddress(plainAddress(host))) throw refused;
      return { host, address: host, port };
    }
    const named = this.allowsName(host);
    // what is not named is not even looked up, unless there are ranges it may be in
    if (!named && this.list.rules.length === 0) throw refused;
    const found = await lookup(host, { all: true }).catch(() => []);
    const address = found.map((each) => each.address).find((each) => named || this.allowsAddress(plainAddress(each)));
    if (address === undefined && found.length === 0 && named)
      throw new ProblemError(422, 'Not found', `No address is known for the name ${host}.`);
    if (address === undefined) throw refused;
    return { host, address, port };
  }
}
