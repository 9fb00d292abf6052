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
  screen?: number;
  peripheral?: PeripheralKind;
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

/** Every screen and every peripheral: whether it works, how it is carried, and why. */
export function deskOf(facts: CrossingFacts, s: SettingValues, session: Session): DeskItem[] {
  const { endpoint } = facts;
  const items: DeskItem[] = [];
  if (!session.native) items.push({ name: 'Screens', works: null, carriedAs: 'not known', why: 'the screens are not known' });
  else {
    const ports = portFits(endpoint);
    session.native.forEach((screen, i) => {
      const name = session.native?.length === 1 ? 'Screen' : `Screen ${i + 1}`;
      const fit = ports[i];
      if (i >= session.screens.length) {
        const why = session.leftBecause === 'setting' ? 'the settings use fewer screens' : session.leftBecause === 'pixels' ? 'more pixels than the client takes' : 'more screens than the client takes';
        // leaving a screen out by a setting is a choice, not a fault
        items.push({ name, works: session.leftBecause === 'setting', carriedAs: 'local only', why, screen: i });
      } else if (fit && !fit.fits && fit.highestHz === 0) items.push({ name, works: false, carriedAs: 'local only', why: 'its port carries no such size', screen: i });
      else items.push({ name, works: true, carriedAs: 'session', why: fit && !fit.fits ? `its port carries ${fit.highestHz} Hz only` : `${screen.widthPx} × ${screen.heightPx}`, screen: i });
    });
  }
  const limited = endpoint.ownership === 'personal' && s['security.personalDevices'] === 'limited';
  for (const peripheral of endpoint.peripherals) {
    const name = peripheralWords[peripheral];
    const item = { name, peripheral };
    if (!session.limits.carries.includes(peripheral)) items.push({ ...item, works: false, carriedAs: 'not allowed', why: `a ${endpoint.clientKind} has no way for it` });
    else if (!s['redirection.devices'].includes(peripheral)) items.push({ ...item, works: false, carriedAs: 'not allowed', why: 'the rules do not let it through' });
    else if (limited && peripheral === 'storage') items.push({ ...item, works: false, carriedAs: 'not allowed', why: 'not from a personal device' });
    else if (peripheral === 'scanner' && !facts.gateway.usb) items.push({ ...item, works: false, carriedAs: 'not allowed', why: 'the gateway carries no USB' });
    else items.push({ ...item, works: true, carriedAs: peripheral === 'scanner' ? 'raw USB' : 'channel', why: '' });
  }
  return items;
}
