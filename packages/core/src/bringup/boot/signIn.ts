import type { Gateway } from '@underpass/contracts';
import { slipsBetween } from '../../find/index.js';
import { compareVersions } from '../../settings/index.js';
import type { Merged, MergedValue } from '../configFile/index.js';
import type { Lease } from './address.js';
import type { BootCause } from './causes/index.js';
import type { BootFacts } from './facts.js';
import type { FirmwareDecision } from './firmware.js';
import type { Run, StepEnd } from './run.js';

const timeServer = 42;

/** How far a clock is off, s, and how that is told; null where it is right or nobody knows. */
export function clockFault(clock: string | undefined, atMs: number, mostS: number): string | null {
  if (clock === undefined || /^(right|ok|yes)$/.test(clock)) return null;
  if (/^(wrong|no)$/.test(clock)) return 'nobody knows by how much';
  const offS = /^[+-]?[\d.]+$/.test(clock) ? Number(clock) : (Date.parse(clock) - atMs) / 1000;
  if (Math.abs(offS) <= mostS) return null;
  return `${offDays(Math.abs(offS))} ${offS < 0 ? 'behind' : 'ahead'}`;
}
const offDays = (seconds: number): string =>
  seconds >= 2 * 86_400 ? `${Math.round(seconds / 86_400)} days` : `${(seconds / 3600).toFixed(1)} hours`;

/** Sets the clock from the time server that the network named; without one its own clock must be right. */
export function setTime(run: Run, { endpoint, location, scopes, assumed, atMs }: BootFacts, lease: Lease): StepEnd {
  const said = lease.from.find(({ option }) => option.code === timeServer);
  run.wait(assumed.bringup.timeS * 1000);
  if (said?.option.type === 'address') {
    run.say('received', `the time, from ${said.option.value}`, `scope ${said.scope.id}`);
    return { detail: `set by ${said.option.value}` };
  }
  const fault = clockFault(endpoint.clock, atMs, assumed.bringup.clockS);
  const scope = said?.scope.id ?? lease.from[0]?.scope.id ?? scopes[0]?.id ?? '';
  if (fault) return { cause: said ? 'time server as text' : 'clock wrong', words: { has: fault, place: location.name, scope } };
  return { detail: endpoint.clock === undefined ? 'its own clock, taken to be right' : 'its own clock' };
}

/** Where the broker is, of what the files come to. */
export function findBroker(run: Run, { files }: BootFacts, { values, switchedOff }: Merged, keep: (address: string) => void): StepEnd {
  const value = values.find(({ section, key }) => section === 'broker' && key === 'address');
  const broken = (cause: BootCause, at: Partial<MergedValue> = {}, has = ''): StepEnd => ({
    cause,
    words: { file: at.file ?? files[0]?.id ?? '', line: String(at.line ?? ''), has },
  });
  if (!value) return withoutBroker(values, switchedOff, broken);
  const { value: text, file, line } = value;
  run.say('here', `signs in at ${text}`, `${file}, line ${line}`);
  if (text.trim() === '') return broken('broker empty', value);
  if (!/^(?!-)[a-z0-9-]{1,63}(\.[a-z0-9-]{1,63})*$/i.test(text)) return broken('broker is no name', value, text);
  keep(text);
  return { detail: `${text}, ${file} line ${line}` };
}

/** Why there is none: switched off, in another section, misspelt, or in no file. */
function withoutBroker(
  values: readonly MergedValue[],
  switchedOff: Merged['switchedOff'],
  broken: (cause: BootCause, at?: Partial<MergedValue>, has?: string) => StepEnd,
): StepEnd {
  const off = switchedOff.find(({ section }) => section === 'broker');
  if (off) return broken('broker switched off', off);
  const misspelt = values.find(({ section, key }) => section === 'broker' && slipsBetween(key.toLowerCase(), 'address', 2) <= 2);
  if (misspelt) return broken('broker misspelt', misspelt, misspelt.key);
  const elsewhere = values.find(({ key }) => key === 'address');
  return elsewhere ? broken('broker in another section', elsewhere, elsewhere.section) : broken('broker missing');
}

/** Whether the sign-in screen stands: the gateway’s certificate and the version it asks for. */
export function showSignIn(run: Run, facts: BootFacts, address: string, { does, offered }: FirmwareDecision): StepEnd {
  const { endpoint, assumed, atMs } = facts;
  const gateway = facts.gatewayAt(address);
  run.wait(assumed.bringup.signInS * 1000);
  if (!gateway) {
    run.note('broker not known', `No gateway of the estate is called ${address}: whether it answers is not known.`);
    return { detail: `at ${address}, of which nothing is known` };
  }
  const fault = certificateFault(gateway, address, atMs);
  if (fault) return { cause: fault.cause, words: { has: address, ...fault.words } };
  const floor = gateway.clientFloors[endpoint.clientKind];
  // where the firmware is the client, what was just written is what asks
  const wrote = endpoint.clientKind === 'thin-client firmware' && (does === 'up' || does === 'down');
  const version = wrote ? offered?.version : endpoint.clientVersion;
  if (floor !== undefined && version !== undefined && compareVersions(version, floor) < 0)
    return { cause: 'client too old', words: { has: gateway.name, floor, version } };
  run.say('received', `the sign-in screen of ${gateway.name}`);
  return { detail: `at ${gateway.name}` };
}

/** What a device finds wrong with a certificate, in the order in which it looks [RFC 5280 section 6.1, RFC 6125]. */
function certificateFault(
  { certificate }: Gateway,
  address: string,
  atMs: number,
): { cause: BootCause; words: Readonly<Record<string, string>> } | null {
  if (!certificate) return null;
  const { names, notBefore, notAfter, trust } = certificate;
  const day = new Date(atMs).toISOString().slice(0, 10);
  if (trust === 'none') return { cause: 'certificate not trusted', words: {} };
  if (day > notAfter) return { cause: 'certificate ended', words: { day: notAfter } };
  if (day < notBefore) return { cause: 'certificate not yet', words: { day: notBefore } };
  const covers = (name: string) =>
    name.toLowerCase() === address.toLowerCase() ||
    (name.startsWith('*.') && address.toLowerCase().split('.').slice(1).join('.') === name.slice(2).toLowerCase());
  return names.some(covers) ? null : { cause: 'certificate for another name', words: { names: names.join(', ') } };
}
