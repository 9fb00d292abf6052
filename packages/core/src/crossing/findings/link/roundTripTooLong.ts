import { asIf, doing, fieldsTo, noChange, supposing } from '../../../change/index.js';
import type { CrossingFacts } from '../../facts.js';
import type { CrossingFigures } from '../../figures.js';
import { lineOf } from '../../line.js';
import { cost, ms, type FindingKind, type Proposal } from '../../finding.js';
import { distanceKm, pathMs } from '../../../link/index.js';

/** Round trip of both legs by a gateway's region and a host's, by their distances, ms. */
const legsMs = ({ location, estate }: CrossingFacts, gatewayRegion: string, hostRegion: string): number => {
  const [gateway, host] = [estate.regions.get(gatewayRegion), estate.regions.get(hostRegion)];
  return gateway && host ? pathMs(distanceKm(location, gateway)) + pathMs(distanceKm(gateway, host)) : Infinity;
};

/** Another gateway, another region for the host: whichever shortens the two legs together, nearest first. */
function nearer(facts: CrossingFacts, { host, way }: CrossingFigures): Proposal[] {
  const { gateway, gatewayRegion, estate, pool, location } = facts;
  if (!host) return [];
  const now = legsMs(facts, gatewayRegion.id, host.region);
  const proposals: { saved: number; proposal: Proposal }[] = [];
  for (const other of estate.gateways) {
    const saved = now - legsMs(facts, other.region, host.region);
    if (other.id === gateway.id || saved < 3) continue;
    // whoever has a direct way goes by none; the figure of the line was measured to the old one, which the model knows
    proposals.push({
      saved,
      proposal: {
        text: `Go by ${other.name}`,
        change: doing(fieldsTo('pool', pool.id, { gateway: other.id })),
        ask: 'the pool must be reachable there',
      },
    });
  }
  for (const region of estate.regions.values()) {
    const saved = now - legsMs(facts, gatewayRegion.id, region.id);
    if (region.id === host.region || saved < 3) continue;
    proposals.push({
      saved,
      proposal: {
        text: `Have a host for ${location.name} in ${region.name}`,
        change: asIf('host', host.id, { region: region.id }),
        ask: 'a host must be set up there',
      },
    });
  }
  // both at once, where neither alone is much: the gateway in the region of the host that is nearest
  const best = [...estate.gateways]
    .map((other) => ({ other, saved: now - legsMs(facts, other.region, other.region) }))
    .filter(({ other }) => other.id !== gateway.id && other.region !== host.region)
    .sort((a, b) => b.saved - a.saved)[0];
  if (best && best.saved > 3 && way.rtt.value > 0)
    proposals.push({
      saved: best.saved,
      proposal: {
        text: `Go by ${best.other.name}, and have a host beside it`,
        change: {
          patches: [fieldsTo('pool', pool.id, { gateway: best.other.id })],
          hypotheses: asIf('host', host.id, { region: best.other.region }).hypotheses,
        },
        ask: 'a host must be set up there',
      },
    });
  return proposals
    .sort((a, b) => b.saved - a.saved)
    .slice(0, 4)
    .map(({ proposal }) => proposal);
}

/** The way is too long for the work, ms from key to pixel. */
export const roundTripTooLong: FindingKind = {
  kind: 'round trip above the threshold for the work',
  bay: 'Link',
  weight: 'limited',
  limits: ['delay'],
  explains: ['region far although a nearer one has the pool', 'gateway far from both ends'],
  detect: (facts, figures) => {
    const { delay, way, wanted } = figures;
    if (delay.low <= wanted.keyToPixelMs) return null;
    const ofWay = new Set(['round trip', 'way to the host', 'gateway']);
    const link = delay.parts.reduce((sum, part) => sum + (ofWay.has(part.name) ? part.ms : 0), 0);
    if (link < 0.35 * delay.value) return null;
    const { location, resource, gatewayRegion } = facts;
    const satellite = facts.line.lineKind === 'geo-satellite';
    const leo = facts.estate.assumed.lines['leo-satellite'];
    const leoMs = Math.round((leo.delayLowMs + leo.delayHighMs) / 2 + pathMs(distanceKm(location, gatewayRegion)));
    return {
      text: satellite
        ? `Satellite delay makes typing lag: ${ms(delay.value)} from key to pixel, wanted ${wanted.keyToPixelMs}`
        : `The way is too long for this work: ${ms(delay.value)} from key to pixel, wanted ${wanted.keyToPixelMs}`,
      cost: cost.short((delay.value / wanted.keyToPixelMs - 1) / 2),
      costText: ms(delay.value - wanted.keyToPixelMs),
      sure: way.rttKnown ? 'sure' : 'rests on an assumption',
      evidence: () => [
        {
          source: way.rtt.source,
          text: `round trip ${ms(way.rtt.value)}${way.rtt.samples ? `, ${way.rtt.samples} samples` : ''} (${Math.round(way.rtt.low)} to ${Math.round(way.rtt.high)})`,
        },
        ...(way.rtt.notUsed
          ? [{ source: way.rtt.notUsed.source, text: `${ms(way.rtt.notUsed.value)} typed for the line`, notUsed: true }]
          : []),
        {
          source: 'computed',
          text: `both legs and the gateway are ${ms(link)} of ${ms(delay.value)}: no wider line takes them away; wanted ${wanted.keyToPixelMs} ms`,
        },
      ],
      remedies: () => [
        ...(facts.location.inside && figures.settings['transport.gatewayBypass'] ? [] : nearer(facts, figures)),
        ...(satellite
          ? [
              {
                text: 'Bring the vessel onto a low-orbit line',
                change: supposing({ suppose: 'line', ...lineOf(facts), roundTripMs: leoMs }),
                ask: `a new line must be ordered; ${leoMs} ms is the middle of what such lines have`,
              },
            ]
          : []),
        ...(resource.kind === 'desktop' && resource.onlyApp
          ? [{ text: `Publish ${resource.onlyApp} as an app`, change: asIf('resource', resource.id, { kind: 'app' }) }]
          : []),
        { text: 'Do this part of the work locally', change: noChange, ask: 'no way makes light faster' },
      ],
    };
  },
};
