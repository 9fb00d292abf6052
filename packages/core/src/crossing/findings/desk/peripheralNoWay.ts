import type { PeripheralKind } from '@underpass/contracts';
import { doing, fieldsTo, settingTo } from '../../../change/index.js';
import { deskWhy, type DeskReason } from '../../desk.js';
import type { CrossingFacts } from '../../facts.js';
import { cost, plural, type FindingKind, type Proposal } from '../../finding.js';
import { setHere } from '../../setHere.js';

/** What lets a peripheral through that a setting of its own keeps out. */
function opened(facts: CrossingFacts, peripheral: PeripheralKind | undefined, code: DeskReason['code'] | undefined): Proposal[] {
  if (code === 'sound elsewhere') return [setHere(facts, 'sound.play', 'on the endpoint', (where) => `Play sound at the desk ${where}`)];
  if (code === 'microphone off') return [setHere(facts, 'sound.microphone', true, (where) => `Let the microphone in ${where}`)];
  if (peripheral === 'camera' && (code === 'setting forbids' || code === 'gateway without USB'))
    return [setHere(facts, 'redirection.camera', 'by channel', (where) => `Carry the camera by its channel ${where}`)];
  if (peripheral === 'card-reader' && code === 'setting forbids')
    return [setHere(facts, 'redirection.smartCard', true, (where) => `Let the card in ${where}`)];
  return [];
}

/** A peripheral on the desk neither has a channel nor may be carried. */
export const peripheralNoWay: FindingKind = {
  kind: 'a peripheral has no way through',
  bay: 'Desk',
  weight: 'limited',
  limits: ['desk'],
  detect: (facts, { desk }) => {
    const { endpoint, location } = facts;
    const stopped = desk.filter((item) => item.peripheral && item.works === false && !item.meant);
    const first = stopped[0];
    if (!first?.peripheral) return null;
    const byRule = stopped.filter((item) => item.because?.code === 'rules forbid');
    return {
      text:
        stopped.length === 1
          ? `${first.name} does not reach the session: ${deskWhy(first.because)}`
          : `${stopped.map((item) => item.name).join(', ')} do not reach the session: ${deskWhy(first.because)}`,
      cost: cost.device + 50 * (stopped.length - 1),
      costText: plural(stopped.length, 'device'),
      sure: 'sure',
      evidence: () => stopped.map((item) => ({ source: 'computed', text: `${item.name}: ${deskWhy(item.because)}` })),
      remedies: () => [
        ...(byRule.length
          ? [
              {
                text: `Let ${byRule.map((item) => item.name.toLowerCase()).join(' and ')} through at ${location.name}`,
                change: doing(
                  settingTo(
                    'redirection.devices',
                    'location',
                    location.id,
                    byRule.map((item) => item.peripheral as string),
                  ),
                ),
              },
              {
                text: 'Let it through on this endpoint only',
                change: doing(
                  settingTo(
                    'redirection.devices',
                    'endpoint',
                    endpoint.id,
                    byRule.map((item) => item.peripheral as string),
                  ),
                ),
              },
            ]
          : []),
        ...stopped.flatMap(({ peripheral, because }) => opened(facts, peripheral, because?.code)),
        ...(endpoint.clientKind === 'browser'
          ? [
              {
                text: 'Use the native client',
                change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })),
              },
            ]
          : []),
      ],
    };
  },
};
