import type { PeripheralKind } from '@underpass/contracts';
import { doing, fieldsTo } from '../../../change/index.js';
import { functionCodes, lettingThrough, sortOf, type ClassTriple } from '../../../redirection/index.js';
import { deskWhy, type DeskItem, type DeskReason } from '../../desk.js';
import { decidedOf, deviceName } from '../../devices.js';
import type { CrossingFigures } from '../../figures.js';
import type { CrossingFacts } from '../../facts.js';
import { cost, type FindingKind, type Proposal } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { setHere, setOnEndpoint } from '../../setHere.js';

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

/** Functions that people want; what is stored leaves with a stick, and keeping it in is mostly meant. */
const isWanted = (code: ClassTriple): boolean => {
  const { kind } = sortOf(code);
  return kind !== undefined && kind !== 'storage';
};

/** A rule of its own for a device that the rules keep out: for all of it, or, where it has something else in it, for its functions that people want. */
function ruledIn(facts: CrossingFacts, { settings, session }: CrossingFigures, { device: id, because }: DeskItem): Proposal[] {
  const { rules, devices, location } = facts;
  const device = because?.code === 'rule denies' || because?.code === 'no rule' ? devices.find((each) => each.id === id) : undefined;
  if (!device) return [];
  const functions = functionCodes(device);
  const wanted = functions.filter(isWanted);
  if (wanted.length === 0) return [];
  const isWhole = wanted.length === functions.length;
  const classes = isWhole ? null : [...new Set(wanted.map(({ class: code }) => code))];
  const names = [...new Set(wanted.map((codes) => sortOf(codes).name))].join(' and ');
  const name = deviceName(device);
  const asks = [
    `it holds for every device of this kind, not at ${location.name} alone`,
    ...(wanted.some((codes) => sortOf(codes).kind === 'printer') ? ['what is printed leaves the session'] : []),
    // a rule that denies was made by somebody, and for a reason
    ...(because?.code === 'rule denies' ? ['whoever answers for the rules has to agree'] : []),
  ];
  return [
    {
      text: isWhole
        ? `Let ${name} through by a rule of its own`
        : `Let ${names} of ${name} through by a rule of its own, and the rest stay at the desk`,
      change: lettingThrough(rules, device, classes, decidedOf(facts, settings, session, device).rule?.id ?? null),
      ask: asks.join('; '),
    },
  ];
}

/** A peripheral on the desk neither has a channel nor may be carried. */
export const peripheralNoWay: FindingKind = {
  kind: 'a peripheral has no way through',
  bay: 'Desk',
  weight: 'limited',
  limits: ['desk'],
  detect: (facts, figures) => {
    const { desk } = figures;
    const { endpoint } = facts;
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
              setHere(
                facts,
                'redirection.devices',
                byRule.map((item) => item.peripheral as string),
                (where) => `Let ${byRule.map((item) => item.name.toLowerCase()).join(' and ')} through ${where}`,
              ),
              setOnEndpoint(
                facts,
                'redirection.devices',
                byRule.map((item) => item.peripheral as string),
                'Let it through on this endpoint only',
              ),
            ]
          : []),
        ...stopped.flatMap((item) => [...opened(facts, item.peripheral, item.because?.code), ...ruledIn(facts, figures, item)]),
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
