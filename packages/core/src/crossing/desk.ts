import type { PeripheralKind } from '@underpass/contracts';
import type { SettingValues } from '../settings/index.js';
import { carriedAs, deviceItem, isMeant, keptOut, type DeviceWay } from './deskDevices.js';
import type { DeskItem, DeskReason } from './deskReason.js';
import { kindOf } from './devices.js';
import type { CrossingFacts } from './facts.js';
import { portFits } from './ports.js';
import type { Session } from './session.js';

export { bayOfReason, deskWhy, type DeskItem, type DeskReason } from './deskReason.js';

const peripheralWords: Record<PeripheralKind, string> = {
  headset: 'Headset',
  camera: 'Camera',
  'card-reader': 'Card reader',
  printer: 'Printer',
  scanner: 'Scanner',
  storage: 'Storage stick',
};

const screenNames = Array.from({ length: 16 }, (_, i) => `Screen ${i + 1}`);

const nothingInFull: ReadonlySet<PeripheralKind> = new Set();

/**
 * Every screen and every peripheral: whether it works, how it is carried, and why.
 * @param way the way of the crossing, by which a device in full may be too slow or ask too much; null where that is not looked at
 */
export function deskOf(facts: CrossingFacts, s: SettingValues, session: Session, way: DeviceWay | null = null): DeskItem[] {
  const { endpoint } = facts;
  const items: DeskItem[] = [];
  const add = (
    name: string,
    works: boolean | null,
    carriedAs: DeskItem['carriedAs'],
    because: DeskReason | null,
    screen?: number,
    peripheral?: PeripheralKind,
    meant = false,
  ) => items.push({ name, works, carriedAs, because, meant, screen, peripheral });
  const { native } = session;
  const manyPixels = ({ device: 'pixels of the device', client: 'too many pixels', setting: 'fewer pixels by setting' } as const)[
    session.pixelsOf
  ];
  if (!native) add('Screens', null, 'not known', { code: 'screens not known' });
  else {
    const ports = portFits(endpoint);
    for (let i = 0; i < native.length; i++) {
      const name = native.length === 1 ? 'Screen' : (screenNames[i] ?? 'Screen');
      const fit = ports[i];
      if (i >= session.screens.length) {
        const code = { setting: 'fewer by setting', 'the same': 'shows the same', pixels: manyPixels, client: 'too many screens' } as const;
        const because = { code: code[session.leftBecause ?? 'client'] };
        const isMeant =
          session.leftBecause === 'setting' || session.leftBecause === 'the same' || because.code === 'fewer pixels by setting';
        add(name, false, 'local only', because, i, undefined, isMeant);
      } else if (i === 0 && session.shrunk) add(name, false, 'session', { code: manyPixels }, i);
      else if (fit && !fit.fits && fit.highestHz === 0) add(name, false, 'local only', { code: 'port too small' }, i);
      else add(name, true, 'session', fit && !fit.fits ? { code: 'port slow', highestHz: fit.highestHz } : null, i);
    }
  }
  const inFull = facts.devices.length > 0 ? new Set(facts.devices.flatMap((device) => kindOf(device) ?? [])) : nothingInFull;
  for (const device of facts.devices) {
    const item = deviceItem(device, facts, s, session, way);
    if (item) items.push(item);
  }
  for (const peripheral of endpoint.peripherals) {
    // what is told in full is not told again in short
    if (inFull.has(peripheral)) continue;
    const name = peripheralWords[peripheral];
    const because =
      s['redirection.devices'].includes(peripheral) || !session.limits.carries.includes(peripheral)
        ? keptOut(peripheral, facts, s, session)
        : { code: 'rules forbid' as const };
    // that data does not leave is what the rule is for; a headset or a reader is wanted for the work
    if (because) add(name, false, 'not allowed', because, undefined, peripheral, isMeant(peripheral, because));
    else add(name, true, carriedAs(peripheral, s, endpoint), null, undefined, peripheral);
  }
  return items;
}
