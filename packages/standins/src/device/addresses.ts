import type { Scope } from '@underpass/contracts';
import { answers, decodeDhcp, encodeDhcp, isLastAsked, optionsFor, rangeAddresses, typeOf, usualLeaseS } from '@underpass/core';
import { createSocket, type RemoteInfo } from 'node:dgram';
import type { AddressInfo } from 'node:net';

/** What goes wrong at a server of addresses. */
export interface AddressFaults {
  /** It does not answer. */
  silent?: boolean;
  /** Options it leaves out, by number. */
  without?: readonly number[];
  /** Options it gives as the other type, by number. */
  otherType?: readonly number[];
}

/** A server of addresses for one place, on a UDP port of the own machine. */
export interface AddressServer {
  port: number;
  faults: AddressFaults;
  close: () => Promise<void>;
}

/**
 * Opens a server of addresses that gives what the scopes of a place say [RFC 2131]. It answers to where it was asked from, as devices here
 * have no network of their own to be shouted at.
 */
export async function openAddressServer(scopes: readonly Scope[]): Promise<AddressServer> {
  const socket = createSocket('udp4');
  const lent = new Map<string, string>();
  const [giving] = scopes.filter(({ free }) => free !== 0);
  const free = giving ? rangeAddresses(giving.addressRange) : [];
  const server: AddressServer = {
    port: 0,
    faults: {},
    close: () => new Promise((resolve) => socket.close(() => resolve())),
  };
  socket.on('message', (bytes: Buffer, from: RemoteInfo) => {
    const { message } = decodeDhcp(new Uint8Array(bytes));
    if (!message || message.op !== 1 || !giving || server.faults.silent) return;
    const who = Buffer.from(message.hardwareAddress).toString('hex');
    const address = lent.get(who) ?? free.find((each) => ![...lent.values()].includes(each));
    if (address === undefined) return;
    const last = isLastAsked(message);
    if (!last && typeOf(message) !== 'DISCOVER') return;
    // what is offered is nobody else's
    lent.set(who, address);
    const vendorClass = message.options.find(({ code }) => code === 60);
    const told = optionsFor(
      scopes.filter((scope) => scope.server === giving.server),
      vendorClass && Buffer.from(vendorClass.bytes).toString('utf8'),
    )
      .map(({ option }) => option)
      .filter(({ code }) => !server.faults.without?.includes(code))
      .map((option) => (server.faults.otherType?.includes(option.code) ? turned(option) : option));
    const answer = encodeDhcp(answers(message, { server: giving.server, address, leaseS: giving.leaseS ?? usualLeaseS }, told, last));
    if (answer) socket.send(answer, from.port, from.address);
  });
  await new Promise<void>((resolve) => socket.bind(0, '127.0.0.1', resolve));
  server.port = (socket.address() as AddressInfo).port;
  return server;
}

type Option = Scope['options'][number];
/** The option as it should not be: a text as an address, an address as text. */
const turned = (option: Option): Option =>
  option.type === 'text' ? { ...option, type: 'address', value: '192.0.2.10' } : { ...option, type: 'text' };
