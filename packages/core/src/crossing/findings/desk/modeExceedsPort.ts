import { asIf, noChange } from '../../../change/index.js';
import { mendsOf, screenMendSays } from '../../../screens/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { ownScreens, portFits } from '../../ports.js';

/** A screen’s mode needs more Gbit/s than a part of its way carries. */
export const modeExceedsPort: FindingKind = {
  kind: 'a screen’s mode does not pass its port',
  bay: 'Desk',
  weight: 'limited',
  limits: ['desk', 'frames'],
  detect: ({ endpoint }, { frames }) => {
    if (!endpoint.screens) return null;
    const screens = ownScreens(endpoint.screens);
    const fits = portFits(endpoint);
    const i = fits.findIndex((each) => each !== null && !each.fits);
    if (i < 0) return null;
    const [screen, fit] = [screens[i], fits[i]];
    if (!screen || !fit) return null;
    const mode = `${screen.widthPx} × ${screen.heightPx} at ${screen.refreshHz ?? 60} Hz`;
    const through = fit.limit.part === 'port' ? fit.limit.kind : `its ${fit.limit.part} (${fit.limit.kind})`;
    const way = mendsOf(screen).find((mend) => mend.code === 'better parts' || mend.code === 'another way');
    const replaced = (by: typeof screen) => (endpoint.screens ?? []).map((other) => (other === screen ? by : other));
    return {
      text: fit.highestHz
        ? `${mode} does not pass ${through}: it falls to ${fit.highestHz} Hz`
        : `${mode} does not pass ${through}: the screen stays dark or smaller`,
      cost: fit.highestHz ? cost.risk + 60 : cost.device,
      limits: fit.highestHz ? (frames.limiter === 'screen' ? ['frames'] : []) : ['desk'],
      costText: fit.highestHz ? `${fit.highestHz} of ${screen.refreshHz ?? 60} Hz` : '1 screen',
      sure: 'sure',
      evidence: () => [
        {
          source: 'computed',
          text: `needs ${fit.neededGbps.toFixed(1)} Gbit/s, the ${fit.limit.part} carries ${fit.usableGbps.toFixed(1)}`,
        },
      ],
      remedies: () => [
        ...(way
          ? [
              {
                text: screenMendSays(way),
                change: asIf('endpoint', endpoint.id, { screens: replaced(way.screen) }),
                ask: 'device and screen must have it',
              },
            ]
          : []),
        ...(fit.highestHz
          ? [
              {
                text: `Set the screen to ${fit.highestHz} Hz so that it does not flicker between modes`,
                change: noChange,
                ask: 'no figure gets better, but nothing is left to chance',
              },
            ]
          : []),
      ],
    };
  },
};
