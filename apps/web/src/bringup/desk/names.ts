import type { Screen } from '@underpass/contracts';

/** What a screen is called: as it calls itself, else by its number. */
export const screenName = (screens: readonly Screen[], i: number): string => {
  const screen = screens[i];
  const own = screen?.name;
  const twice = own !== undefined && screens.filter(({ name }) => name === own).length > 1;
  return own === undefined ? `Screen ${i + 1}` : twice ? `${own} (${i + 1})` : own;
};
/** Its size and rate. */
export const modeWords = ({ widthPx, heightPx, refreshHz }: Pick<Screen, 'widthPx' | 'heightPx' | 'refreshHz'>): string =>
  `${widthPx} × ${heightPx}${refreshHz === undefined ? '' : ` at ${Math.round(refreshHz * 100) / 100} Hz`}`;
