import { doing, settingTo, supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { cost, mbit, type FindingKind } from '../../finding.js';

/** Camera and voice ask for more upwards than there is, Mbit/s. */
export const uploadTooNarrow: FindingKind = {
  kind: 'upload too narrow for the camera',
  bay: 'Link',
  weight: 'risk',
  detect: ({ location, endpoint }, { way, upNeededMbps, settings }) => {
    if (!way.availableUp || !way.up || way.availableUp.value >= upNeededMbps || upNeededMbps < 0.3) return null;
    const layer = location.ownLines ? 'endpoint' : 'location';
    const target = location.ownLines ? endpoint.id : location.id;
    return {
      text: `Others see a frozen picture: the camera wants ${mbit(upNeededMbps)} upwards, there is ${mbit(way.availableUp.value)}`,
      cost: cost.risk + 80 * (1 - way.availableUp.value / upNeededMbps) + 30,
      costText: `short ${mbit(upNeededMbps - way.availableUp.value)}`,
      sure: way.up.source === 'measured' ? 'sure' : 'likely',
      evidence: [{ source: way.up.source, text: `${mbit(way.up.value)} from ${location.name}` }],
      remedies: [
        ...(settings['media.cameraHeight'] > 360
          ? [
              {
                text: 'Send a camera picture of 360 lines',
                change: doing(settingTo('media.cameraHeight', layer as 'location', target, 360)),
              },
            ]
          : []),
        {
          text: 'Order a wider line upwards',
          change: supposing({
            suppose: 'line',
            ...lineOf({ location, endpoint }),
            upMbps: Math.ceil(upNeededMbps * way.peopleAtOnce * 1.2),
          }),
          ask: 'an order to the carrier',
        },
      ],
    };
  },
};
