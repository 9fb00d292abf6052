import type { TypedBecause } from '../../../signon/index.js';
import { handedOf, signsOnByItself } from '../../handed.js';
import { setHere } from '../../setHere.js';
import { cost, figure, type FindingKind, type Proposal } from '../../finding.js';

const whys: Record<TypedBecause, string> = {
  'nothing is handed on': 'nothing is handed on to it',
  'a ticket, where a secret is wanted': 'it wants the secret, and there is a ticket only',
  'a part of the name is missing': 'a part of the name is missing',
  'the name is written otherwise': 'the name is written otherwise than it wants',
};
const patterns = { bare: '{name}', 'domain before': '{domain}\\{name}', 'domain behind': '{name}@{domain}' } as const;

/** What is handed on from the device to the host breaks off or does not fit: somebody types what they have typed before, s. */
export const typesAgain: FindingKind = {
  kind: 'typed again on the way',
  bay: 'Gateway',
  weight: 'limited',
  limits: ['usable'],
  detect: (facts, { settings, signon, assumed }) => {
    if (!signon.typesAt?.length) return null;
    const again = handedOf(facts, settings).filter(({ because }) => because !== null);
    const seconds = again.length * assumed.signon.passwordS;
    const [first] = again;
    if (!first?.because) return null;
    const others = again.length > 1 ? `, and ${again.length === 2 ? 'once more' : 'twice more'} after it` : '';
    return {
      text: `${facts.person.name} types name and password again at the ${first.step}${others}: ${whys[first.because]}`,
      cost: cost.waiting(seconds),
      costText: `${figure(seconds)} s`,
      sure: 'likely',
      evidence: () => [
        ...again.map(({ step, name, because }) => ({
          source: 'declared' as const,
          text: `to the ${step}: “${name}”${because ? `; ${whys[because]}` : ''}`,
        })),
        { source: 'assumed' as const, text: `${figure(assumed.signon.passwordS)} s to type each time` },
      ],
      remedies: () =>
        again.flatMap(({ step, because }): Proposal[] => {
          const form = step === 'host' ? facts.pool.nameForm : step === 'gateway' ? facts.gateway.nameForm : undefined;
          if (because === 'the name is written otherwise' && form && step !== 'broker')
            return [
              setHere(
                facts,
                `signon.${step}Name`,
                patterns[form],
                (where) => `Write the name to the ${step} as ${patterns[form]} ${where}`,
              ),
            ];
          if (because === 'a part of the name is missing' && step !== 'gateway')
            return [setHere(facts, `signon.${step}Name`, '{name}', (where) => `Write the name alone to the ${step} ${where}`)];
          if (step === 'gateway')
            return [setHere(facts, 'signon.gatewayName', '{name}', (where) => `Write the name alone to the gateway ${where}`)];
          const hand = setHere(facts, `signon.${step}Gets`, 'what there is', (where) => `Hand on to the ${step} what there is ${where}`);
          return signsOnByItself(facts, settings) && because === 'a ticket, where a secret is wanted'
            ? [setHere(facts, `signon.${step}Gets`, 'ticket', (where) => `Hand a ticket to the ${step} ${where}`), hand]
            : [hand];
        }),
    };
  },
};
