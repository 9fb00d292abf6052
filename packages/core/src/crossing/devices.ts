import type { Peripheral, PeripheralKind } from '@underpass/contracts';
import { decide, functionCodes, sortOf, type Decision, type PluggedSide } from '../redirection/index.js';
import { followed, type SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import type { Session } from './session.js';

/** Who has the devices of a crossing before them. */
export const sideOf = ({ endpoint, subject }: CrossingFacts, s: SettingValues, { limits }: Pick<Session, 'limits'>): PluggedSide => ({
  ownership: endpoint.ownership,
  groups: subject.groups,
  hasUsb: endpoint.clientKind !== 'browser',
  ownChannels: limits.carries,
  when: whenOf(followed(s, 'redirection.connect', endpoint)),
});
const whenOf = (setting: SettingValues['redirection.connect']) => (setting === 'plugged in' ? 'when plugged in' : setting);

/** What a device in full is for the work: the first of its functions that has a name among peripherals. */
export function kindOf(device: Peripheral): PeripheralKind | undefined {
  for (const codes of functionCodes(device)) {
    const { kind } = sortOf(codes);
    if (kind) return kind;
  }
  return undefined;
}
/** A device as it is told: by its name, else by what it does. */
export const deviceName = (device: Peripheral): string => {
  if (device.name) return device.name;
  const names = [...new Set(functionCodes(device).map((codes) => sortOf(codes).name))];
  const text = names.join(' and ');
  return `${text.slice(0, 1).toUpperCase()}${text.slice(1)} ${device.vid}:${device.pid}`;
};

/** Whether something of a kind is on the desk, named in short or in full. */
export const hasOnDesk = (
  { endpoint, devices = [] }: Pick<CrossingFacts, 'endpoint'> & Partial<Pick<CrossingFacts, 'devices'>>,
  kind: PeripheralKind,
): boolean => endpoint.peripherals.includes(kind) || devices.some((device) => kindOf(device) === kind);

/** What the rules make of a device on a crossing. */
export const decidedOf = (facts: CrossingFacts, s: SettingValues, session: Pick<Session, 'limits'>, device: Peripheral): Decision =>
  decide(device, sideOf(facts, s, session), facts.rules);
