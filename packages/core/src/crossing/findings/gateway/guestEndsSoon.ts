import { noChange } from '../../../change/index.js';
import { guestEndMs, guestState } from '../../../access/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** A guest’s access ends soon. */
export const guestEndsSoon: FindingKind = {
  kind: 'a guest’s access ends soon',
  bay: 'Gateway',
  weight: 'risk',
  detect: ({ person, atMs }) => {
    const { guest } = person;
    if (!guest || guestState(person, atMs) !== 'ending soon') return null;
    const days = Math.ceil((guestEndMs(guest.endsOn) - atMs) / 86_400_000);
    return {
      text: `The access of ${person.name} ends in ${plural(days, 'day')}, on ${guest.endsOn}`,
      cost: cost.risk,
      costText: plural(days, 'day'),
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `owner ${guest.owner}, to ${guest.endsOn}` }],
      remedies: () => [
        {
          text: 'Ask the owner whether it should go on',
          change: noChange,
          at: { kind: 'person', id: person.id },
          ask: 'a new end date, or the guest is told in time',
        },
      ],
    };
  },
};
