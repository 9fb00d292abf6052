import { noChange } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';
import { setForPerson } from '../../setHere.js';

/** Memory a device needs beside its system for the session, its screens and a call handled locally; from memory, assumed. */
const neededMB = (screens: number, offload: boolean, browser: boolean) => 700 + 150 * screens + (offload ? 900 : 0) + (browser ? 800 : 0);

/** Less memory, in GB, than the local work needs. */
export const memoryShort: FindingKind = {
  kind: 'memory short for the local work',
  bay: 'Endpoint',
  weight: 'risk',
  detect: (facts, { session, settings }) => {
    const { endpoint } = facts;
    const offload = settings['media.callOffload'];
    const needed = neededMB(session.screens.length, offload, endpoint.clientKind === 'browser');
    if (endpoint.memoryMB === undefined || endpoint.memoryMB >= needed) return null;
    return {
      text: `${figure(endpoint.memoryMB)} MB of memory for local work that wants about ${figure(needed)} MB: sound comes late, programs swap`,
      cost: cost.risk + 25,
      costText: `${figure(needed - endpoint.memoryMB)} MB`,
      sure: 'rests on an assumption',
      evidence: () => [{ source: endpoint.reportedAt ? 'reported' : 'declared', text: `${endpoint.memoryMB} MB in ${endpoint.name}` }],
      remedies: () => [
        ...(offload ? [setForPerson(facts, 'media.callOffload', false, (whom) => `Carry calls through the host ${whom}`)] : []),
        { text: 'Close other programs on the device', change: noChange, ask: 'frees memory; ask the person' },
      ],
    };
  },
};
