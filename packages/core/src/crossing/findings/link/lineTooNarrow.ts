import { supposing } from '../../../change/index.js';
import { peopleHeld } from '../../../link/index.js';
import { cost, mbit, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { lineOf } from '../../line.js';
import { usableMbps } from '../../rate.js';
import { smallerPicture } from '../../smallerPicture.js';

/** The rate that the picture gets is below what it asks, Mbit/s: by the line and the others on it, or by the Wi-Fi. */
export const lineTooNarrow: FindingKind = {
  kind: 'share of the line below the picture’s demand',
  bay: 'Link',
  weight: 'limited',
  limits: ['frames', 'delay'],
  explains: ['full desktop where one app is used', 'video played inside where the endpoint could', 'delay under load'],
  detect: (facts, figures) => {
    const { location, line, others, endpoint, estate } = facts;
    const { way, demand, frames, session, settings, wanted } = figures;
    const { available, down } = way;
    if (!available || !down || way.bound !== 'line' || available.value >= demand.p95Mbps * settings['picture.qualityFloor']) return null;
    const shared = others.count > 0;
    const own = location.ownLines;
    const tallest = Math.max(...session.screens.map((screen) => Math.min(screen.heightPx, screen.widthPx)));
    const usable = usableMbps(down, estate.assumed.lines[line.lineKind].framingShare);
    const held = () =>
      peopleHeld(usable, { activeShare: Math.max(0.01, others.activeShare), meanMbps: demand.meanMbps, sdMbps: demand.sdMbps });
    const heldWords = () => (Number.isFinite(held()) ? held() : 'all');
    const neededMbps = Math.ceil((down.value * demand.p95Mbps * (shared ? 1.05 : 1.1)) / Math.max(0.1, available.value) / 5) * 5;
    const screens = session.screens.length > 1 ? `${session.screens.length} screens of ${tallest}p` : `a ${tallest}p screen`;
    return {
      text: `Too narrow for ${screens}: needs ${mbit(demand.p95Mbps)}, gets ${mbit(available.value)}`,
      cost: cost.frames(frames.value, wanted.framesAtLeast),
      costText: `${plural(Math.round(frames.cap - frames.value), 'frame')}`,
      sure: down.source === 'measured' && available.low === available.high ? 'sure' : 'likely',
      limits: frames.limiter === 'line' ? ['frames', 'delay'] : ['delay'],
      evidence: () => [
        { source: down.source, text: `${mbit(down.value)} towards ${location.name}` },
        ...(down.notUsed ? [{ source: down.notUsed.source, text: `${mbit(down.notUsed.value)} typed for the line`, notUsed: true }] : []),
        ...(shared
          ? [
              {
                source: 'computed' as const,
                text: `${plural(way.peopleAtOnce, 'person', 'people')} at once; the line holds ${heldWords()} such people`,
              },
            ]
          : []),
        ...(figures.onLine.besideP95Mbps > 0
          ? [
              {
                source: 'assumed' as const,
                text: `${mbit(figures.onLine.besideP95Mbps)} of video beside the session, at its source’s rate`,
              },
            ]
          : []),
        { source: 'computed' as const, text: `share ${mbit(available.value)}, needed ${mbit(demand.p95Mbps)} for ${screens}` },
      ],
      remedies: () => [
        ...smallerPicture(facts, figures),
        {
          text: own ? `Get the person a line of ${neededMbps} Mbit/s` : `Widen the line to ${neededMbps} Mbit/s`,
          change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), downMbps: neededMbps }),
          ask: 'an order to the carrier',
        },
      ],
    };
  },
};
