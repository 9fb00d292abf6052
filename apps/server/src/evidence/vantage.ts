import { BlockList, isIPv4 } from 'node:net';
import { networkInterfaces } from 'node:os';
import type { SimulatedLine } from '../config.js';
import { isLoopback, plainAddress } from '../edge/plainAddress.js';

function ownAddresses(): BlockList {
  const list = new BlockList();
  for (const addresses of Object.values(networkInterfaces()))
    for (const { address, cidr, family } of addresses ?? []) {
      const bits = Number(cidr?.split('/')[1] ?? (family === 'IPv4' ? 32 : 128));
      list.addSubnet(address, bits, family === 'IPv4' ? 'ipv4' : 'ipv6');
    }
  return list;
}

/** The simulated line a request came through: only loopback can, and it says so by the port it asked for. */
export function lineOf(lines: readonly SimulatedLine[], remote: string, host: string | undefined): SimulatedLine | undefined {
  if (!isLoopback(plainAddress(remote))) return undefined;
  const port = Number(host?.split(':').at(-1));
  return lines.find((line) => line.port === port);
}

/** Whether a check from this address says nothing about a desk: it comes from the server's own machine or address range. */
export function isOwnRange(remote: string): boolean {
  const address = plainAddress(remote);
  return isLoopback(address) || ownAddresses().check(address, isIPv4(address) ? 'ipv4' : 'ipv6');
}
