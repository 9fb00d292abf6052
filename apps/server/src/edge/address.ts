import { BlockList, isIP, isIPv4 } from 'node:net';
import type { IncomingMessage } from 'node:http';
import { plainAddress } from './plainAddress.js';

/** The machines whose word about where a request came from is taken: proxies of one's own. */
export class TrustedProxies {
  private readonly list = new BlockList();
  readonly any: boolean;

  /** @param written addresses or ranges in CIDR form, comma separated */
  constructor(written: string) {
    const parts = written
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean);
    this.any = parts.length > 0;
    for (const part of parts) {
      const [address = '', bits] = part.split('/');
      const family = isIP(address) === 6 ? 'ipv6' : 'ipv4';
      if (!isIP(address) || (bits !== undefined && !/^\d{1,3}$/.test(bits))) throw new Error(`TRUSTED_PROXY: “${part}” is not an address`);
      this.list.addSubnet(address, bits === undefined ? (family === 'ipv4' ? 32 : 128) : Number(bits), family);
    }
  }

  private trusts(address: string): boolean {
    return this.any && isIP(address) !== 0 && this.list.check(address, isIPv4(address) ? 'ipv4' : 'ipv6');
  }

  /** Where a request comes from: the nearest address that no proxy of one's own wrote about itself. */
  addressOf(request: IncomingMessage): string {
    let address = plainAddress(request.socket.remoteAddress ?? '');
    const chain = String(request.headers['x-forwarded-for'] ?? '')
      .split(',')
      .map((part) => plainAddress(part.trim()));
    while (this.trusts(address) && chain.length > 0) {
      const next = chain.pop() as string;
      if (!isIP(next)) break;
      address = next;
    }
    return address;
  }

  /** Whether a request came encrypted, as far as it is known. */
  isSecure(request: IncomingMessage): boolean {
    if ('encrypted' in request.socket && request.socket.encrypted) return true;
    return (
      this.trusts(plainAddress(request.socket.remoteAddress ?? '')) &&
      String(request.headers['x-forwarded-proto'] ?? '')
        .split(',')[0]
        ?.trim() === 'https'
    );
  }
}
