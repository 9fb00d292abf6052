import type { Location } from '@underpass/contracts';
import type { Evening } from '../../../assumed/index.js';
import { noChange } from '../../../change/index.js';
import type { Missing } from '../../question.js';
import { clock, rateShareAt } from '../../../day/index.js';
import { ageInDays, type Taken } from '../../../evidence/index.js';
import { localHour } from '../../hour.js';
import { cost, figure, type FindingKind } from '../../finding.js';

/** @example loss, line rate and round trips */
const listed = (facts: readonly string[]): string =>
  facts.length < 2 ? facts.join('') : `${facts.slice(0, -1).join(', ')} and ${facts.at(-1)}`;

/** The hour in which it was measured, where the line gives something else then than in the hour that counts. */
function otherHour(taken: Taken<unknown>, { timeZone }: Location, evening: Evening | null, hour: number): number | null {
  const then = localHour(taken, timeZone);
  return rateShareAt(evening, then) === rateShareAt(evening, hour) ? null : then;
}

/** Facts that a measurement at the desk makes known. */
const ofTheLine: ReadonlySet<Missing> = new Set<Missing>([
  'round trips',
  'line rate',
  'rate upwards',
  'loss',
  'people at once',
  'Wi-Fi signal',
  'reach of the gateway',
]);

/** Those of them that are others at another hour. */
const ofTheHour: ReadonlySet<Missing> = new Set<Missing>(['round trips', 'line rate', 'rate upwards', 'people at once']);

/** What may be otherwise at another hour, and what is not known at any. */
function otherThen(decides: readonly Missing[]): string {
  const [varies, rest] = [decides.filter((fact) => ofTheHour.has(fact)), decides.filter((fact) => !ofTheHour.has(fact))];
  return `${listed(varies)} may be otherwise then${rest.length ? `, ${listed(rest)} is not known closely` : ''}`;
}

/** Round trips, rate or loss of the line are not known, and decide. */
export const lineNotMeasured: FindingKind = {
  kind: 'the line is not known',
  bay: 'Link',
  weight: 'unknown',
  detect: ({ endpoint, evidence, location, line, atMs, estate }, { way, missing }) => {
    const decides = missing.filter((fact, i) => ofTheLine.has(fact) && missing.indexOf(fact) === i);
    if (decides.length === 0) return null;
    const few = evidence.roundTrips;
    const other =
      few && few.at !== '' && decides.some((fact) => ofTheHour.has(fact))
        ? otherHour(few, location, estate.assumed.lines[line.lineKind].evening, way.rttHour)
        : null;
    const { oldest } = evidence;
    const { freshDays, halvesInDays, fewestRoundTrips } = estate.assumed.evidence;
    const days = oldest ? ageInDays(oldest.at, atMs) : 0;
    return {
      text:
        few && !way.rttKnown
          ? `Only ${few.samples} round trips were measured, ${fewestRoundTrips} are needed to go by`
          : days >= freshDays
            ? `Measured ${days} days ago, which weighs less: ${listed(decides)} of the way from ${location.name} may be otherwise by now, and it decides`
            : other !== null
              ? `Measured at ${clock(other)}, which says less of ${clock(way.rttHour)}, when more people share the way from ${location.name}: ${otherThen(decides)}, and it decides`
              : `Not known: ${listed(decides)} of the way from ${location.name}, and it decides`,
      cost: cost.notKnown + decides.length,
      costText: decides.length === 1 ? '1 figure' : `${decides.length} figures`,
      sure: 'rests on an assumption',
      evidence: () => [
        ...(days >= freshDays && oldest
          ? [
              {
                source: 'measured' as const,
                text: `measured on ${oldest.at.slice(0, 10)}, ${days} days ago; half of it is lost in ${halvesInDays} days`,
              },
            ]
          : []),
        ...(other === null
          ? []
          : [
              {
                source: 'measured' as const,
                text: `measured at ${clock(other)}; the verdict is for ${clock(way.rttHour)}, when the neighbourhood is busier`,
              },
            ]),
        ...(way.rttKnown
          ? [
              {
                source: way.rtt.source,
                text: `round trip ${Math.round(way.rtt.value)} ms, ${Math.round(way.rtt.low)} to ${Math.round(way.rtt.high)}`,
              },
              ...(decides.includes('loss')
                ? [
                    {
                      source: way.loss.source,
                      text: `loss between ${figure(way.loss.low)} and ${figure(way.loss.high)} %, ${way.loss.note}`,
                    },
                  ]
                : []),
              ...(decides.includes('people at once')
                ? [{ source: 'assumed' as const, text: '40 to 80 % of the people of a place active at once; common practice' }]
                : []),
            ]
          : [
              {
                source: 'assumed' as const,
                text: `round trip ${Math.round(way.rtt.low)} to ${Math.round(way.rtt.high)} ms: ${way.rtt.note}`,
              },
            ]),
      ],
      remedies: () => [
        {
          text: `Send a field check to ${endpoint.name}${other === null ? '' : `, to be made about ${clock(way.rttHour)}`}`,
          change: noChange,
          ask: `makes known: ${decides.join(', ')}; 40 seconds of the person’s time`,
        },
      ],
    };
  },
};
