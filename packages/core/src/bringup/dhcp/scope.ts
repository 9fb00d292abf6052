import type { FleetClass, Scope } from '@underpass/contracts';
import { shortLeaseS, typeOf } from './decode.js';
import type { DhcpMessage } from './message.js';
import { bytesOf, type MessageToSend, type OptionToSend } from './encode.js';

/** Who asks: its hardware address, and the number of the exchange. */
export interface Asking {
  hardwareAddress: Uint8Array;
  xid: number;
}

const type = { discover: 1, offer: 2, request: 3, ack: 5 } as const;
const none = '0.0.0.0';
const message = (op: number, { hardwareAddress, xid }: Asking, options: readonly OptionToSend[]): MessageToSend => ({
  ...{ op, hardwareType: 1, hops: 0, xid, secs: 0, broadcast: op === 1, clientAddress: none, yourAddress: none },
  ...{ nextServer: none, relay: none, hardwareAddress, serverName: '', bootFile: '', options },
});

/** What a device of a class sends to find an address, and to take the one it is offered [RFC 2131 sections 4.4.1 and 4.3.2]. */
export function asks(
  asking: Asking,
  of: Pick<FleetClass, 'vendorClass' | 'serverOption'>,
  taken?: { address: string; server: string },
): MessageToSend {
  return message(1, asking, [
    { code: 53, bytes: bytesOf.u8(taken ? type.request : type.discover) },
    ...(taken
      ? [
          { code: 50, bytes: bytesOf.addresses(taken.address) },
          { code: 54, bytes: bytesOf.addresses(taken.server) },
        ]
      : []),
    { code: 60, bytes: bytesOf.text(of.vendorClass) },
    { code: 55, bytes: Uint8Array.from([...new Set([1, 3, 6, 12, 15, 42, of.serverOption.code])]) },
  ]);
}

/** An option as a scope says it, in bytes. */
const written = ({ code, type: as, value }: Scope['options'][number]): OptionToSend => ({
  code,
  bytes: as === 'text' ? bytesOf.text(value) : bytesOf.addresses(...value.split(',').map((part) => part.trim())),
});

/** Options that the server itself says, whatever stands in a scope. */
const ofTheServer: ReadonlySet<number> = new Set([50, 51, 52, 53, 54, 55]);

/**
 * Options that a server gives to a device: of its scopes those without a class and those of the device's own; where both say one,
 * the class's own counts. One given twice in a scope goes twice over the wire, and is joined there [RFC 3396].
 */
export function optionsFor(
  scopes: readonly Scope[],
  vendorClass: string | undefined,
): { option: Scope['options'][number]; scope: Scope }[] {
  const mine = scopes.filter((scope) => scope.vendorClass === undefined || scope.vendorClass === vendorClass);
  const own = mine.filter((scope) => scope.vendorClass !== undefined);
  const said = new Set(own.flatMap(({ options }) => options.map(({ code }) => code)));
  const from: { option: Scope['options'][number]; scope: Scope }[] = [];
  const before = new Map<number, Scope>();
  for (const scope of [...own, ...mine.filter((each) => each.vendorClass === undefined)])
    for (const option of scope.options) {
      if (ofTheServer.has(option.code)) continue;
      if (scope.vendorClass === undefined && said.has(option.code)) continue;
      // of two scopes of one sort the first that says it counts
      if (before.has(option.code) && before.get(option.code) !== scope) continue;
      before.set(option.code, scope);
      from.push({ option, scope });
    }
  return from;
}

/** What a server answers out of its scopes [RFC 2131 section 4.3.1]. */
export function answers(
  asking: Asking,
  { server, address, leaseS }: { server: string; address: string; leaseS: number },
  options: readonly Scope['options'][number][],
  last: boolean,
): MessageToSend {
  return {
    ...message(2, asking, [
      { code: 53, bytes: bytesOf.u8(last ? type.ack : type.offer) },
      { code: 54, bytes: bytesOf.addresses(server) },
      { code: 51, bytes: bytesOf.u32(leaseS) },
      ...options.map(written),
    ]),
    yourAddress: address,
  };
}

/** How long an address is lent where a scope does not say; a day, common practice, no source. */
export const usualLeaseS = 86_400;
/** Whether it is so short that devices ask again and again. */
export const isShort = (leaseS: number): boolean => leaseS < shortLeaseS;

const asNumber = (address: string): number => address.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);
const asAddress = (n: number): string => [24, 16, 8, 0].map((by) => Math.floor(n / 2 ** by) % 256).join('.');
const dotted = /^(\d{1,3}(?:\.\d{1,3}){3})$/;

/** First and last address of a range, written with a dash or as a prefix [RFC 4632]; null where it is neither. */
export function rangeOf(text: string): { first: string; last: string; size: number } | null {
  const [from = '', to = ''] = text.split('-').map((part) => part.trim());
  const ends = (first: number, last: number) =>
    last < first ? null : { first: asAddress(first), last: asAddress(last), size: last - first + 1 };
  if (isAddress(from) && isAddress(to)) return ends(asNumber(from), asNumber(to));
  const [base = '', bits = ''] = text.trim().split('/');
  const prefix = Number(bits);
  if (!isAddress(base) || !/^\d{1,2}$/.test(bits) || prefix > 32) return null;
  const size = 2 ** (32 - prefix);
  const first = Math.floor(asNumber(base) / size) * size;
  // the first and the last of a network are nobody's [RFC 950]
  return size > 2 ? ends(first + 1, first + size - 2) : ends(first, first + size - 1);
}
const isAddress = (text: string): boolean => dotted.test(text) && text.split('.').every((part) => Number(part) <= 255);

/** Whether a device asks for the address it was offered, for good [RFC 2131 section 3.1]. */
export const isLastAsked = (message: DhcpMessage): boolean => typeOf(message) === 'REQUEST';

/** Most addresses of a range that are listed. */
const mostListed = 4096;
/** The addresses of a range from its end, as servers mostly give them; the first few thousand of a larger one. */
export function rangeAddresses(text: string): string[] {
  const range = rangeOf(text);
  if (!range) return [];
  const last = asNumber(range.last);
  return Array.from({ length: Math.min(mostListed, range.size) }, (_, i) => asAddress(last - i));
}
