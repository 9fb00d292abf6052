import { supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { setHere } from '../../setHere.js';
import { cost, mbit, type FindingKind } from '../../finding.js';

/** Camera and voice ask for more upwards than there is, Mbit/s. */
export const uploadTooNarrow: FindingKind = {
  kind: 'upload too narrow for the camera',
  bay: 'Link',
  weight: 'limited',
  limits: ['sending'],
  detect: (facts, { way, upNeededMbps, settings }) => {
    const { up, availableUp } = way;
    if (!availableUp || !up || availableUp.value >= upNeededMbps || upNeededMbps < 0.1) return null;
    const { location, endpoint, resource } = facts;
    const camera = resource.camera && endpoint.peripherals.includes('camera');
    return {
      text: `${camera ? 'Others see a frozen picture: the camera' : 'Others hear gaps: the voice'} wants ${mbit(upNeededMbps)} upwards, there is ${mbit(availableUp.value)}`,
      cost: cost.short((1 - availableUp.value / upNeededMbps) / 2),
      costText: `short ${mbit(upNeededMbps - availableUp.value)}`,
      sure: up.source === 'measured' ? 'sure' : 'likely',
      evidence: () => [
        {
          source: up.source,
          text: `${mbit(up.value)} from ${location.name}, others take what leaves ${mbit(availableUp.value)}`,
        },
        {
          source: 'assumed',
          text: `${mbit(upNeededMbps)} for ${camera ? `a camera picture of ${settings['media.cameraHeight']} lines and ` : ''}a voice`,
        },
      ],
      remedies: () => [
        ...(camera && settings['media.cameraHeight'] > 360
          ? [setHere(facts, 'media.cameraHeight', 360, (where) => `Send a camera picture of 360 lines ${where}`)]
          : []),
        {
          text: 'Order a wider line upwards',
          change: supposing({
            suppose: 'line',
            ...lineOf({ location, endpoint }),
            // what is missing comes on top of what there is
            upMbps: Math.ceil((up.value + (upNeededMbps - availableUp.value)) * 1.2),
          }),
          ask: 'an order to the carrier',
        },
      ],
    };
  },
};
