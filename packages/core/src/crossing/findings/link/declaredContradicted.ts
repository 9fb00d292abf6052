import { noChange } from '../../../change/index.js';
import { cost, mbit, ms, type FindingKind } from '../../finding.js';

/** What is typed of the line differs from what was measured. */
export const declaredContradicted: FindingKind = {
  kind: 'declared figure contradicted by measurement',
  bay: 'Link',
  weight: 'risk',
  detect: ({ location }, { way }) => {
    const { down, rtt } = way;
    const rateOff = down?.notUsed && Math.abs(down.value / down.notUsed.value - 1) > 0.25 ? down : null;
    const delayOff = rtt.notUsed && Math.abs(rtt.value - rtt.notUsed.value) > Math.max(10, rtt.notUsed.value * 0.4) ? rtt : null;
    const off = rateOff ?? delayOff;
    const typed = off?.notUsed;
    if (!off || !typed) return null;
    const say = rateOff ? mbit : ms;
    return {
      text: `${rateOff ? 'The line' : 'The round trip'} is typed as ${say(typed.value)} but measures ${say(off.value)}`,
      cost: cost.risk - 8,
      costText: rateOff ? `${Math.round((off.value / typed.value) * 100)} % of what is typed` : ms(off.value - typed.value),
      sure: 'sure',
      evidence: () => [
        { source: 'measured', text: `${say(off.value)}, ${off.note}` },
        { source: typed.source, text: say(typed.value), notUsed: true },
      ],
      remedies: () => [
        {
          text: `Ask the carrier about the line of ${location.name}`,
          change: noChange,
          at: { kind: 'location', id: location.id },
          ask: 'the measurement counts until then',
        },
      ],
    };
  },
};
