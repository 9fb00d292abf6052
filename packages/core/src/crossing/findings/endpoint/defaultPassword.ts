import { doing, fieldsTo } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Anybody at the desk may set the device up. */
export const defaultPassword: FindingKind = {
  kind: 'default password on the endpoint',
  bay: 'Endpoint',
  weight: 'risk',
  detect: ({ endpoint }) =>
    endpoint.defaultPassword !== true
      ? null
      : {
          text: `The password that ${endpoint.id} was delivered with still works: anybody at it may set it up`,
          cost: cost.risk * 2,
          costText: 'anybody in',
          sure: 'sure',
          evidence: () => [{ source: 'reported', text: `${endpoint.id} took the password it was delivered with` }],
          remedies: () => [
            {
              text: 'Set a password of its own on the device',
              change: doing(fieldsTo('endpoint', endpoint.id, { defaultPassword: false })),
              ask: 'nothing changes for people, strangers stay out',
            },
          ],
        },
};
