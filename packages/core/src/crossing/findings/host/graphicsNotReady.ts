import { asIf } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { brokenRung } from '../../../hosts/index.js';

/** A rung of the graphics of the host is missing: 3D is drawn on the processor. */
export const graphicsNotReady: FindingKind = {
  kind: 'graphics of the host not ready',
  bay: 'Host',
  weight: 'limited',
  limits: ['frames', 'delay'],
  explains: ['frame source slower than the cap'],
  detect: ({ resource }, { host, frames, wanted }) => {
    if (!resource.graphics || !host) return null;
    const rung = brokenRung(host.graphics);
    if (!rung) return null;
    return {
      text: `${host.name} ${rung.missing}: 3D is drawn on the processor, ${plural(Math.round(frames.value), 'frame')}`,
      cost: cost.short(Math.max(0.05, 1 - frames.value / wanted.framesAtLeast)),
      limits: frames.limiter === 'host drawing' ? ['frames', 'delay'] : [],
      costText: `${plural(Math.round(frames.cap - frames.value), 'frame')}`,
      sure: 'sure',
      evidence: () => [
        {
          source: host.reportedAt ? 'reported' : 'declared',
          text: `${host.name}: ${rung.field} is ${String(host.graphics?.[rung.field])}`,
        },
      ],
      remedies: () => [
        {
          text: `${rung.remedy} ${host.name}`,
          change: asIf('host', host.id, {
            [`graphics.${rung.field}`]: rung.wanted,
            // what it drew in without its card says nothing of how it draws with it
            ...(host.drawMs !== undefined && host.drawMs > 30 ? { drawMs: 12 } : {}),
          }),
          ask: 'then look at the next rung',
        },
      ],
    };
  },
};
