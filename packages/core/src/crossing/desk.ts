import type { Endpoint, PeripheralKind } from '@underpass/contracts';
import { portFit, type PortFit } from '../screens/index.js';
import type { SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import type { Session } from './session.js';

export interface DeskItem {
  name: string;
  /** null where it is not known. */
  works: boolean | null;
  carriedAs: 'session' | 'channel' | 'raw USB' | 'local only' | 'not allowed' | 'not known';
  why: string;
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

/** The screens' ports, worked out once per endpoint: they do not change with the settings. */
const fits = new WeakMap<Endpoint, (PortFit | null)[]>();
export function portFits(endpoint: Endpoint): (PortFit | null)[] {
  let known = fits.get(endpoint);
  if (!known) fits.set(endpoint, (known = (endpoint.screens ?? []).map((screen) => (screen.port ? portFit(screen, screen.port) : null))));
  return known;
}

const screenNames = Array.from({ length: 16 }, (_, i) => `Screen ${i + 1}`);

/** Every screen and every peripheral: whether it works, how it is carried, and why. */
export function deskOf(facts: CrossingFacts, s: SettingValues, session: Session): DeskItem[] {
  const { endpoint } = facts;
  const items: DeskItem[] = [];
  const add = (
    name: string,
    works: boolean | null,
    carriedAs: DeskItem['carriedAs'],
    why: string,
    screen?: number,
    peripheral?: PeripheralKind,
  ) => items.push({ name, works, carriedAs, why, screen, peripheral });
  const { native } = session;
  if (!native) add('Screens', null, 'not known', 'the screens are not known');
  else {
    const ports = portFits(endpoint);
    for (let i = 0; i < native.length; i++) {
      const name = native.length === 1 ? 'Screen' : (screenNames[i] ?? 'Screen');
      const fit = ports[i];
      if (i >= session.screens.length) {
        const why =
          session.leftBecause === 'setting'
            ? 'the settings use fewer screens'
            : session.leftBecause === 'pixels'
              ? 'more pixels than the client takes'
              : 'more screens than the client takes';
        // leaving a screen out by a setting is a choice, not a fault
        add(name, session.leftBecause === 'setting', 'local only', why, i);
      } else if (fit && !fit.fits && fit.highestHz === 0) add(name, false, 'local only', 'its port carries no such size', i);
      else add(name, true, 'session', fit && !fit.fits ? `its port carries ${fit.highestHz} Hz only` : '', i);
    }
  }
  const limited = endpoint.ownership === 'personal' && s['security.personalDevices'] === 'limited';
  for (const peripheral of endpoint.peripherals) {
    const name = peripheralWords[peripheral];
    const no = (why: string) => add(name, false, 'not allowed', why, undefined, peripheral);
    if (!session.limits.carries.includes(peripheral)) no(`a ${endpoint.clientKind} has no way for it`);
    else if (!s['redirection.devices'].includes(peripheral)) no('the rules do not let it through');
    else if (limited && peripheral === 'storage') no('not from a personal device');
    else if (peripheral === 'scanner' && !facts.gateway.usb) no('the gateway carries no USB');
    else add(name, true, peripheral === 'scanner' ? 'raw USB' : 'channel', '', undefined, peripheral);
  }
  return items;
}
