import type { Endpoint } from '@underpass/contracts';
import { portFit, type PortFit } from '../screens/index.js';

/** The screens' ports, worked out once per endpoint: they do not change with the settings. */
const fits = new WeakMap<Endpoint, (PortFit | null)[]>();
/** Whether each screen of an endpoint passes its port; null for a screen whose port is not known. */
export function portFits(endpoint: Endpoint): (PortFit | null)[] {
  let known = fits.get(endpoint);
  if (!known) fits.set(endpoint, (known = (endpoint.screens ?? []).map((screen) => (screen.port ? portFit(screen, screen.port) : null))));
  return known;
}
