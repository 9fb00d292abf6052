import { setHere } from '../../setHere.js';
import { cost, figure, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** Hours of work in a month: 8 h on 20 days; assumed. */
const hours = 160;

/** Volume that video takes of a line paid by volume, GB a month. */
export const meteredVideo: FindingKind = {
  kind: 'video on a metered line',
  bay: 'Link',
  weight: 'risk',
  detect: (facts, { demand, onLine, wanted }) => {
    const { line, location, others, resource } = facts;
    const share = (resource.content.video ?? 0) + (resource.content['page-video'] ?? 0);
    // everything that crosses the line counts, and everybody on it
    const people = 1 + others.count * others.activeShare;
    const mbps = onLine.meanMbps + onLine.upMbps + others.count * others.activeShare * (others.meanMbps + others.upMeanMbps);
    const gigabytes = (mbps * 3600 * hours) / 8 / 1000;
    const video = demand.videoMbps + onLine.besideMbps;
    if (!line.metered || share === 0 || gigabytes < 5) return null;
    const fewest = Math.max(15, wanted.framesAtLeast);
    return {
      text: `Work with video takes about ${figure(gigabytes)} GB a month of a metered line`,
      cost: cost.risk + Math.min(50, gigabytes / 2),
      costText: `${figure(gigabytes)} GB a month`,
      sure: 'rests on an assumption',
      evidence: () => [
        { source: 'declared', text: `${location.name} pays by volume` },
        {
          source: 'computed',
          text: `${figure(gigabytes)} GB: ${figure(mbps)} Mbit/s of ${plural(Math.round(people), 'person', 'people')} at once, ${figure(video)} of them this one’s video, ${hours} hours a month (assumed)`,
        },
      ],
      remedies: () => [
        setHere(facts, 'picture.frameCap', fewest, (where) => `Cap the picture ${where} at ${plural(fewest, 'frame')}`),
        setHere(facts, 'media.videoOffload', true, (where) => `Play video on the endpoints ${where}`),
      ],
    };
  },
};
