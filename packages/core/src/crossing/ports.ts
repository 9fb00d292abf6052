import type { Endpoint, Screen } from '@underpass/contracts';
import { pathFit, type PathFit } from '../screens/index.js';

/** Screens that show something of their own: what mirrors another is none more to a session. */
export const ownScreens = (screens: readonly Screen[]): readonly Screen[] =>
  screens.some(({ mirrors }) => mirrors) ? screens.filter(({ mirrors }) => !mirrors) : screens;

/** The ways to the screens, worked out once per endpoint: they do not change with the settings. */
const fits = new WeakMap<Endpoint, (PathFit | null)[]>();
/** Whether each screen of its own of an endpoint passes its way; null for a screen of whose way nothing is known. */
export function portFits(endpoint: Endpoint): (PathFit | null)[] {
  let known = fits.get(endpoint);
  if (!known) fits.set(endpoint, (known = ownScreens(endpoint.screens ?? []).map(pathFit)));
  return known;
}
