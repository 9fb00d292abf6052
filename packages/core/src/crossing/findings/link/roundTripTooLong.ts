import { noChange, supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { cost, ms, type FindingKind } from '../../finding.js';
import { distanceKm, pathMs } from '../../../link/index.js';

/** The way is too long for the work, ms from key to pixel. */
export const roundTripTooLong: FindingKind = {
  kind: 'round trip above the threshold for the work',
  bay: 'Link',
  weight: 'limited',
  explains: ['region far although a nearer one has the pool'],
  detect: (facts, { delay, way, wanted }) => {
    if (delay.low <= wanted.keyToPixelMs) return null;
    const link = delay.parts.reduce((sum, part) => sum + (part.bay === 'Link' || part.bay === 'Gateway' ? part.ms : 0), 0);
    if (link < 0.35 * delay.value) return null;
    const { location, resource, gateway, gatewayRegion, estate } = facts;
    const nearer = estate.gateways
      .filter((other) => other.id !== gateway.id)
      .map((other) => ({ other, region: estate.regions.get(other.region) }))
      .flatMap(({ other, region }) =>
        region ? [{ other, saved: pathMs(distanceKm(location, gatewayRegion)) - pathMs(distanceKm(location, region)) }] : [],
      )
      .sort((a, b) => b.saved - a.saved)[0];
    const satellite = facts.line.lineKind === 'geo-satellite';
    return {
      text: satellite
        ? `Satellite delay makes typing lag: ${ms(delay.value)} from key to pixel, wanted ${wanted.keyToPixelMs}`
        : `The way is too long for this work: ${ms(delay.value)} from key to pixel, wanted ${wanted.keyToPixelMs}`,
      cost: cost.short((delay.value / wanted.keyToPixelMs - 1) / 2),
      costText: ms(delay.value - wanted.keyToPixelMs),
      sure: way.rttKnown ? 'sure' : 'rests on an assumption',
      evidence: [
        {
          source: way.rtt.source,
          text: `round trip ${ms(way.rtt.value)}${way.rtt.samples ? `, ${way.rtt.samples} samples` : ''} (${Math.round(way.rtt.low)} to ${Math.round(way.rtt.high)})`,
        },
        ...(way.rtt.notUsed
          ? [{ source: way.rtt.notUsed.source, text: `${ms(way.rtt.notUsed.value)} typed for the line`, notUsed: true }]
          : []),
        { source: 'computed', text: `link and gateway are ${ms(link)} of ${ms(delay.value)}; a wider line changes nothing here` },
      ],
      remedies: [
        ...(nearer && nearer.saved > 3 && !satellite
          ? [
              {
                text: `Go by ${nearer.other.name}`,
                change: supposing({ suppose: 'line', ...lineOf(facts), roundTripMs: Math.max(2, way.rtt.value - nearer.saved) }),
                ask: 'the pool must be reachable there',
              },
            ]
          : []),
        ...(satellite
          ? [
              {
                text: 'Bring the vessel onto a low-orbit line',
                change: supposing({ suppose: 'line', ...lineOf(facts), roundTripMs: 55 }),
                ask: 'a new line must be ordered',
              },
            ]
          : []),
        ...(resource.kind === 'desktop' && resource.onlyApp
          ? [
              {
                text: `Publish ${resource.onlyApp} as an app`,
                change: supposing({ suppose: 'object', kind: 'resource', id: resource.id, set: { kind: 'app' } }),
              },
            ]
          : []),
        { text: 'Do this part of the work locally', change: noChange, ask: 'no way makes light faster' },
      ],
    };
  },
};
