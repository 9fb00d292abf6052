import type { Bay, ClientKind, PeripheralKind } from '@underpass/contracts';
import type { SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import { portFits } from './ports.js';
import type { Session } from './session.js';

/** What keeps something on the desk from the session, or narrows it. */
export type DeskReason =
  | { code: 'screens not known' | 'fewer by setting' | 'too many pixels' | 'pixels of the device' | 'too many screens' | 'port too small' }
  | { code: 'port slow'; highestHz: number }
  | { code: 'client cannot'; clientKind: ClientKind }
  | { code: 'rules forbid' | 'personal device' | 'gateway without USB' };

/** Where each reason lies on the way. */
export const bayOfReason = ({ code }: DeskReason): Bay =>
  code === 'rules forbid' || code === 'gateway without USB' ? 'Gateway' : 'Endpoint';

/** The reason in words, to go on after a name and a colon. */
export function deskWhy(because: DeskReason | null): string {
  switch (because?.code) {
    case undefined:
      return '';
    case 'screens not known':
      return 'the screens are not known';
    case 'fewer by setting':
      return 'the settings use fewer screens';
    case 'too many pixels':
      return 'more pixels than the client takes';
    case 'pixels of the device':
      return 'more pixels than the device drives';
    case 'too many screens':
      return 'more screens than the client takes';
    case 'port too small':
      return 'its port carries no such size';
    case 'port slow':
      return `its port carries ${because.highestHz} Hz only`;
    case 'client cannot':
      return `a ${because.clientKind} has no way for it`;
    case 'rules forbid':
      return 'the rules do not let it through';
    case 'personal device':
      return 'not from a personal device';
    case 'gateway without USB':
      return 'the gateway carries no USB';
  }
}

/** A screen or peripheral on the desk and whether it works in the session. */
export interface DeskItem {
  name: string;
  /** null where it is not known. */
  works: boolean | null;
  carriedAs: 'session' | 'channel' | 'raw USB' | 'local only' | 'not allowed' | 'not known';
  /** Why it does not work, or not wholly; null where there is nothing to say. In words: `deskWhy`. */
  because: DeskReason | null;
  /** It does not work because it is meant not to: by a setting or a rule about data. That is no fault. */
  meant: boolean;
  screen: number | undefined;
  peripheral: PeripheralKind | undefined;
}

const peripheralWords: Record<PeripheralKind, string> = {
  headset: 'Headset',
  camera: 'Camera',
  'card-reader': 'Card reader',
  printer: 'Printer',
  scanner: 'Scanner',
  storage: 'Storage stick',
};

const screenNames = Array.from({ length: 16 }, (_, i) => `Screen ${i + 1}`);

/** Every screen and every peripheral: whether it works, how it is carried, and why. */
export function deskOf(facts: CrossingFacts, s: SettingValues, session: Session): DeskItem[] {
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
  const manyPixels = session.pixelsOf === 'device' ? 'pixels of the device' : 'too many pixels';
  if (!native) add('Screens', null, 'not known', { code: 'screens not known' });
  else {
    const ports = portFits(endpoint);
    for (let i = 0; i < native.length; i++) {
      const name = native.length === 1 ? 'Screen' : (screenNames[i] ?? 'Screen');
      const fit = ports[i];
      if (i >= session.screens.length) {
        const code = { setting: 'fewer by setting', pixels: manyPixels, client: 'too many screens' } as const;
        const because = { code: code[session.leftBecause ?? 'client'] };
        add(name, false, 'local only', because, i, undefined, session.leftBecause === 'setting');
      } else if (i === 0 && session.shrunk) add(name, false, 'session', { code: manyPixels }, i);
      else if (fit && !fit.fits && fit.highestHz === 0) add(name, false, 'local only', { code: 'port too small' }, i);
      else add(name, true, 'session', fit && !fit.fits ? { code: 'port slow', highestHz: fit.highestHz } : null, i);
    }
  }
  const limited = endpoint.ownership === 'personal' && s['security.personalDevices'] === 'limited';
  for (const peripheral of endpoint.peripherals) {
    const name = peripheralWords[peripheral];
    // that data does not leave by a stick is what the rule is for; a headset or a reader is wanted for the work
    const no = (because: DeskReason) => {
      const meant = peripheral === 'storage' && because.code !== 'client cannot';
      add(name, false, 'not allowed', because, undefined, peripheral, meant);
    };
    if (!session.limits.carries.includes(peripheral)) no({ code: 'client cannot', clientKind: endpoint.clientKind });
    else if (!s['redirection.devices'].includes(peripheral)) no({ code: 'rules forbid' });
    else if (limited && peripheral === 'storage') no({ code: 'personal device' });
    else if (peripheral === 'scanner' && !facts.gateway.usb) no({ code: 'gateway without USB' });
    else add(name, true, peripheral === 'scanner' ? 'raw USB' : 'channel', null, undefined, peripheral);
  }
  return items;
}
