import { doing, settingTo, supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { cost, figure, mbit, plural, type FindingKind, type Proposal } from '../../finding.js';
import { lineDefaults, peopleHeld } from '../../../link/index.js';

/** The share of the line is below what the picture asks, Mbit/s. */
export const lineTooNarrow: FindingKind = {
  kind: 'share of the line below the picture’s demand',
  bay: 'Link',
  weight: 'limited',
  explains: ['full desktop where one app is used', 'video played inside where the endpoint could'],
  detect: ({ location, line, resource, others, endpoint }, { way, demand, frames, session, settings, wanted }) => {
    if (!way.available || !way.down || way.lossBound || way.available.value >= demand.p95Mbps * settings['picture.qualityFloor'])
      return null;
    const shared = others.count > 0;
    const own = location.ownLines;
    const layer = own ? 'endpoint' : 'location';
    const target = own ? endpoint.id : location.id;
    const where = own ? 'on this endpoint' : `at ${location.name}`;
    const set = (
      key: 'picture.heldHeight' | 'picture.frameCap' | 'picture.codec' | 'screens.most',
      value: number | string,
      text: string,
    ): Proposal => ({ text, change: doing(settingTo(key, layer, target, value)) });
    const tallest = Math.max(...session.screens.map((screen) => Math.min(screen.heightPx, screen.widthPx)));
    const usable = way.down.value * (1 - lineDefaults[line.lineKind].framingShare);
    const held = peopleHeld(usable, { activeShare: Math.max(0.01, others.activeShare), meanMbps: demand.meanMbps, sdMbps: demand.sdMbps });
    const neededMbps = Math.ceil((way.down.value * demand.p95Mbps * (shared ? 1.05 : 1.1)) / Math.max(0.1, way.available.value) / 5) * 5;
    const screens = session.screens.length > 1 ? `${session.screens.length} screens of ${tallest}p` : `a ${tallest}p screen`;
    return {
      text: `Too narrow for ${screens}: needs ${mbit(demand.p95Mbps)}, gets ${mbit(way.available.value)}`,
      cost: cost.short(Math.max(0.05, 1 - frames.value / wanted.framesAtLeast)),
      costText: `${Math.round(frames.cap - frames.value)} frames`,
      sure: way.down.source === 'measured' ? 'sure' : 'likely',
      evidence: [
        { source: way.down.source, text: `${mbit(way.down.value)} towards ${location.name}` },
        ...(way.down.notUsed
          ? [{ source: way.down.notUsed.source, text: `${mbit(way.down.notUsed.value)} typed for the line`, notUsed: true }]
          : []),
        ...(shared
          ? [
              {
                source: 'computed' as const,
                text: `${plural(way.peopleAtOnce, 'person', 'people')} at once; the line holds ${Number.isFinite(held) ? held : 'all'} such people`,
              },
            ]
          : []),
        { source: 'computed' as const, text: `share ${figure(way.available.value)}, needed ${figure(demand.p95Mbps)} Mbit/s` },
      ],
      remedies: [
        ...[1440, 1080]
          .filter((height) => height < tallest)
          .map((height) => set('picture.heldHeight', height, `Hold screens ${where} at ${height}p`)),
        ...(settings['picture.frameCap'] > Math.max(15, wanted.framesAtLeast)
          ? [
              set(
                'picture.frameCap',
                Math.max(15, wanted.framesAtLeast),
                `Cap the picture ${where} at ${Math.max(15, wanted.framesAtLeast)} frames`,
              ),
            ]
          : []),
        ...(session.codec === 'h264' || session.codec === 'progressive' || session.codec === 'bitmap'
          ? [set('picture.codec', 'hevc', `Code the picture ${where} in H.265`)]
          : []),
        ...(session.codec === 'progressive' || session.codec === 'bitmap'
          ? [set('picture.codec', 'h264', `Code the picture ${where} in H.264`)]
          : []),
        ...(session.screens.length > 1 ? [set('screens.most', 1, `Use one screen ${where}`)] : []),
        ...(resource.kind === 'desktop' && resource.onlyApp
          ? [
              {
                text: `Publish ${resource.onlyApp} as an app`,
                change: supposing({ suppose: 'object', kind: 'resource', id: resource.id, set: { kind: 'app' } }),
              },
            ]
          : []),
        {
          text: own ? `Get the person a line of ${neededMbps} Mbit/s` : `Widen the line to ${neededMbps} Mbit/s`,
          change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), downMbps: neededMbps }),
          ask: 'an order to the carrier',
        },
      ],
    };
  },
};
