import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Anybody may administer the gateway. */
export const defaultCredentials: FindingKind = {
  kind: 'default credentials on the gateway',
  bay: 'Gateway',
  weight: 'risk',
  detect: ({ gateway }) =>
    gateway.defaultCredentials !== true
      ? null
      : {
          text: `The maker’s password of ${gateway.name} still works: anybody who knows it gets in`,
          cost: cost.risk * 4,
          costText: 'anybody in',
          sure: 'sure',
          evidence: () => [{ source: 'reported', text: `${gateway.address} took the password it was delivered with` }],
          remedies: () => [
            {
              text: `Set a password of your own on ${gateway.name}`,
              change: noChange,
              at: { kind: 'gateway', id: gateway.id },
              ask: 'nothing changes for people, strangers stay out',
            },
          ],
        },
};
