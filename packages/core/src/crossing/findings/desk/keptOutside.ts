import { deskWhy } from '../../desk.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { setOnEndpoint } from '../../setHere.js';

/** Something that a rule about data keeps outside, as it is meant to: no fault, but somebody may ask. */
export const keptOutside: FindingKind = {
  kind: 'a rule keeps a device outside',
  bay: 'Desk',
  weight: 'risk',
  detect: (facts, { desk }) => {
    const kept = desk.filter((item) => item.peripheral && item.works === false && item.meant);
    const [first] = kept;
    if (!first?.peripheral) return null;
    const byRule = first.because?.code === 'rules forbid' && facts.endpoint.ownership === 'managed';
    return {
      text: `${first.name} stays outside the session: ${deskWhy(first.because)}, which is what they are for`,
      cost: cost.risk,
      costText: plural(kept.length, 'device'),
      sure: 'sure',
      evidence: () => kept.map((item) => ({ source: 'computed', text: `${item.name}: ${deskWhy(item.because)}` })),
      // files can leave by a stick: never on a device that nobody manages, and never for a whole place at once
      remedies: () =>
        byRule
          ? [
              setOnEndpoint(
                facts,
                'redirection.devices',
                kept.map((item) => item.peripheral as string),
                `Let ${kept.map((item) => item.name.toLowerCase()).join(' and ')} through on this endpoint, where files may then leave by it`,
                'whoever answers for the data has to agree',
              ),
            ]
          : [],
    };
  },
};
