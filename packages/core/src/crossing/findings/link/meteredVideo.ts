import { doing, settingTo } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';

/** Hours of video work in a month: 4 h on 20 days; assumed. */
const hours = 80;

/** Volume that video takes of a line paid by volume, GB a month. */
export const meteredVideo: FindingKind = {
  kind: 'video on a metered line',
  bay: 'Link',
  weight: 'risk',
  detect: ({ line, location }, { demand, wanted }) => {
    const gigabytes = (demand.videoMbps * 3600 * hours) / 8 / 1000;
    if (!line.metered || gigabytes < 5) return null;
    const fewest = Math.max(15, wanted.framesAtLeast);
    const set = (key: 'media.videoOffload' | 'picture.frameCap', value: boolean | number, text: string) => ({
      text,
      change: doing(settingTo(key, 'location', location.id, value)),
    });
    return {
      text: `Video takes about ${figure(gigabytes)} GB a month of a metered line`,
      cost: cost.risk + Math.min(50, gigabytes / 2),
      costText: `${figure(gigabytes)} GB a month`,
      sure: 'rests on an assumption',
      evidence: [
        { source: 'declared', text: `${location.name} pays by volume` },
        { source: 'computed', text: `${figure(demand.videoMbps)} Mbit/s of video, ${hours} hours a month (assumed)` },
      ],
      remedies: [
        set('picture.frameCap', fewest, `Cap the picture at ${location.name} at ${fewest} frames`),
        set('media.videoOffload', true, 'Play video on the endpoint'),
      ],
    };
  },
};
