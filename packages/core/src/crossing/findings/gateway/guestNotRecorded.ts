import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Nobody answers for a guest. */
export const guestNotRecorded: FindingKind = {
  kind: 'a guest nobody answers for',
  bay: 'Gateway',
  weight: 'risk',
  detect: ({ person }) =>
    person.kind !== 'guest' || person.guest
      ? null
      : {
          text: `${person.name} is a guest without an owner and an end date`,
          cost: cost.risk,
          costText: 'no end',
          sure: 'sure',
          evidence: () => [{ source: 'declared', text: 'the guest’s record is empty' }],
          remedies: () => [
            {
              text: 'Record owner, organisation and end date',
              change: noChange,
              at: { kind: 'person', id: person.id },
              ask: 'somebody answers for the access, and it ends',
            },
          ],
        },
};
