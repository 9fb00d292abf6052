import type { Scope } from '@underpass/contracts';
import { answers, decodeDhcp, encodeDhcp, hexText, isShort, optionsFor, rangeOf, usualLeaseS, type DhcpMessage } from '../dhcp/index.js';
import type { BootFacts } from './facts.js';
import type { Run, StepEnd } from './run.js';

/** What the network told a device. */
export interface Lease {
  address: string;
  server: string;
  /** The last answer as the device read it. */
  told: DhcpMessage;
  /** Which scope each option is from; where several say one, all are here. */
  from: readonly { option: Scope['options'][number]; scope: Scope }[];
}

/** How long one waits before asking again, ms: 4, 8, 16 s [RFC 2131 section 4.1; the random second more or less is left out]. */
const waitsMs = [4000, 8000, 16_000, 32_000];

/** Finds an address; what is told with it goes into `keep`. */
export function findAddress(run: Run, facts: BootFacts, keep: (lease: Lease) => void): StepEnd {
  const { location, scopes, fleet } = facts;
  run.say('sent', `DHCPDISCOVER${fleet ? `, vendor class “${fleet.vendorClass}”` : ''}`, fleet && `device class ${fleet.id}`);
  const [scope] = scopes.filter(({ free }) => free !== 0);
  const range = scope && rangeOf(scope.addressRange);
  if (!scope || !range) return withoutAddress(run, location.name, scopes[0], scope);
  const { answerMs } = facts.assumed.bringup;
  const { from, told } = answerOf(scopes, scope, fleet?.vendorClass, range.last);
  const leaseS = scope.leaseS ?? usualLeaseS;
  twoServers(run, facts, scope.server);
  run.wait(answerMs);
  run.say('received', `DHCPOFFER of ${range.last} from ${scope.server}`, `scope ${scope.id}`);
  run.say('sent', 'DHCPREQUEST');
  run.wait(answerMs);
  run.say('received', `DHCPACK, lent for ${leaseS} s`, `scope ${scope.id}`);
  if (isShort(leaseS)) run.note('short lease', `Scope ${scope.id} lends addresses for ${leaseS} s: devices ask again and again.`);
  keep({ address: range.last, server: scope.server, told, from });
  return { detail: `${range.last} from ${scope.server}, scope ${scope.id}` };
}

/** Asks until it gives up: nobody gives addresses, none is left, or what is given cannot be read. */
function withoutAddress(run: Run, place: string, first: Scope | undefined, giving: Scope | undefined): StepEnd {
  for (const ms of waitsMs) {
    run.wait(ms);
    if (ms !== waitsMs.at(-1)) run.say('sent', 'DHCPDISCOVER, again');
  }
  run.say('here', 'gives up, begins anew');
  if (giving) return { cause: 'range unreadable', words: { place, scope: giving.id, has: giving.addressRange } };
  return { cause: first ? 'addresses used up' : 'no scope', words: { place, scope: first?.id ?? '' } };
}

type Answer = Pick<Lease, 'from' | 'told'>;
const known = new WeakMap<readonly Scope[], Map<string, Answer>>();
/** Who asks says nothing to what is told: a locally administered address [IEEE 802]. */
const anybody = { hardwareAddress: Uint8Array.of(2, 0, 0, 0, 0, 1), xid: 1 };
/** Longer than all that a scope may say: whether a network carries it in one packet is left out. */
const longestMessage = 65_000;

/** The last answer of a server as a device reads it; the same for all devices of a class at a place, so that it is made once. */
function answerOf(scopes: readonly Scope[], giving: Scope, vendorClass: string | undefined, address: string): Answer {
  let answersHere = known.get(scopes);
  if (!answersHere) known.set(scopes, (answersHere = new Map<string, Answer>()));
  const key = `${giving.id} ${vendorClass ?? ''}`;
  let answer = answersHere.get(key);
  if (!answer) {
    const ofServer = scopes.filter(({ server }) => server === giving.server);
    const from = optionsFor(ofServer, vendorClass);
    const said = from.map(({ option }) => option);
    const message = answers(anybody, { server: giving.server, address, leaseS: giving.leaseS ?? usualLeaseS }, said, true);
    const bytes = encodeDhcp(message, longestMessage);
    const told = bytes && decodeDhcp(bytes).message;
    if (!told) throw new Error('what a scope says does not fit into a message');
    answersHere.set(key, (answer = { from, told }));
  }
  return answer;
}

/** Tells of servers that answer the same question; which of them is first is chance. */
function twoServers(run: Run, { scopes, fleet }: BootFacts, first: string): void {
  const servers = [...new Set(scopes.filter(({ free }) => free !== 0).map(({ server }) => server))];
  if (servers.length < 2 || !fleet) return;
  const { code } = fleet.serverOption;
  const values = servers.map((server) => {
    const said = optionsFor(
      scopes.filter((scope) => scope.server === server),
      fleet.vendorClass,
    ).find(({ option }) => option.code === code);
    return said && `${said.option.type} ${said.option.value}`;
  });
  const alike = values.every((value) => value === values[0]);
  run.note(
    'two servers',
    `${servers.join(' and ')} both answer${alike ? '' : `, and do not say the same in option ${code}: whichever is first decides`}. Here ${first} is taken to be first.`,
  );
}

/** An option as it stood in the message, for the log. */
export function seenIn(told: DhcpMessage, code: number): string {
  const option = told.options.find((each) => each.code === code);
  if (!option) return `option ${code}: not there`;
  return `option ${code}, ${option.bytes.length} bytes ${hexText(option.bytes.subarray(0, 24))}${option.bytes.length > 24 ? '…' : ''} at ${option.offset}`;
}
