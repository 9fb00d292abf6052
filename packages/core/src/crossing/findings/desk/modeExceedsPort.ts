import { asIf, noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { portFits } from '../../ports.js';

/** A screen’s mode needs more Gbit/s than its port carries. */
export const modeExceedsPort: FindingKind = {
  kind: 'a screen’s mode does not pass its port',
  bay: 'Desk',
  weight: 'limited',
  limits: ['desk', 'frames'],
  detect: ({ endpoint }, { frames }) => {
    const screens = endpoint.screens;
    if (!screens) return null;
    const fits = portFits(endpoint);
    const i = fits.findIndex((each) => each !== null && !each.fits);
    if (i < 0) return null;
    const [screen, fit] = [screens[i], fits[i]];
    if (!screen || !fit) return null;
    const mode = `${screen.widthPx} × ${screen.heightPx} at ${screen.refreshHz ?? 60} Hz`;
    const replaced = (change: object) => screens.map((other, at) => (at === i ? { ...other, ...change } : other));
    return {
      text: fit.highestHz
        ? `${mode} does not pass ${screen.port}: it falls to ${fit.highestHz} Hz`
        : `${mode} does not pass ${screen.port}: the screen stays dark or smaller`,
      cost: fit.highestHz ? cost.risk + 60 : cost.device,
      limits: fit.highestHz ? (frames.limiter === 'screen' ? ['frames'] : []) : ['desk'],
      costText: fit.highestHz ? `${fit.highestHz} of ${screen.refreshHz ?? 60} Hz` : '1 screen',
      sure: 'sure',
      evidence: () => [
        { source: 'computed', text: `needs ${fit.neededGbps.toFixed(1)} Gbit/s, the port carries ${fit.usableGbps.toFixed(1)}` },
      ],
      remedies: () => [
        {
          text: 'Use a port that carries it',
          change: asIf('endpoint', endpoint.id, { screens: replaced({ port: 'dp-hbr2' }) }),
          ask: 'the device must have one',
        },
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
