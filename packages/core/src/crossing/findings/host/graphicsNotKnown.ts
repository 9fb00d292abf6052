import { noChange } from '../../../change/index.js';
import { cost, framesText, type FindingKind } from '../../finding.js';

/** 3D work on a host whose graphics are not known. */
export const graphicsNotKnown: FindingKind = {
  kind: 'the graphics of the host are not known',
  bay: 'Host',
  weight: 'unknown',
  detect: ({ resource, estate }, { host, frames, missing }) => {
    const draws = resource.graphics && frames.missing === 'graphics of the host';
    const inDoubt = missing.includes('host figures');
    if (!host || (!draws && !inDoubt)) return null;
    return {
      text: draws
        ? `Whether ${host.name} draws 3D on a card is not known, and it decides`
        : `How fast ${host.name} draws and encodes is not known closely enough, and it decides`,
      cost: cost.notKnown + 2,
      costText: '1 figure',
      sure: 'rests on an assumption',
      evidence: () => [
        {
          source: 'assumed',
          text: draws
            ? `${framesText(estate.assumed.host.drawnByProcessorFps)} a second without a card, 30 or more with one`
            : `draws in ${Math.round(frames.drawMs)} ms, encodes in ${Math.round(frames.encoding.ms)}`,
        },
      ],
      remedies: () => [
        {
          text: `Ask ${host.name} for its report`,
          change: noChange,
          at: { kind: 'host', id: host.id },
          ask: 'makes known how it draws and encodes; 2 minutes',
        },
      ],
    };
  },
};
