import { compareVersions } from '../../settings/index.js';
import { noChange } from '../../change/index.js';
import { asksSecondFactor } from '../ladder.js';
import { setHere } from '../setHere.js';
import type { LintRule } from './rule.js';

/** How long somebody needs to answer a second factor, s: to find the telephone, read and type; from memory, assumed. */
export const secondFactorLeastS = 20;

/** Checks of security, transport and sign-on. */
export const securityRules: readonly LintRule[] = [
  {
    rule: 'a sign-in before the session that the client cannot do',
    about: ['security.preSession'],
    detect: ({ facts, settings, session: { limits } }) =>
      !settings['security.preSession'] || limits.preSession
        ? null
        : {
            cause: `Sign-in before the session is required, and a ${facts.endpoint.clientKind} cannot do it`,
            consequence: 'The connection closes at once, without a word',
            remedy: setHere(facts, 'security.preSession', false, (where) => `Do not require it ${where}`),
          },
  },
  {
    rule: 'storage let through for guests',
    about: ['redirection.devices'],
    detect: ({ facts, settings }) =>
      !facts.subject.guest || !settings['redirection.devices'].includes('storage')
        ? null
        : {
            cause: `${facts.person.name} is a guest, and storage sticks are let through`,
            consequence: 'Data leaves with somebody whom another organisation answers for',
            remedy: setHere(facts, 'redirection.devices', ['-storage'], (where) => `Take storage away ${where}`),
          },
  },
  {
    rule: 'an untrusted certificate is only warned of, on a device of somebody’s own',
    about: ['security.certificateTrust'],
    detect: ({ facts, settings }) =>
      settings['security.certificateTrust'] !== 'warn' || facts.endpoint.ownership !== 'personal'
        ? null
        : {
            cause: 'An untrusted certificate is warned of, and the device is nobody’s of ours',
            consequence: 'Whoever stands between is let in by one click',
            remedy: setHere(facts, 'security.certificateTrust', 'reject', (where) => `Refuse it ${where}`),
          },
  },
  {
    rule: 'single sign-on without the card reader',
    about: ['session.singleSignOn', 'redirection.devices'],
    detect: ({ facts, settings }) =>
      !settings['session.singleSignOn'] ||
      !facts.endpoint.peripherals.includes('card-reader') ||
      settings['redirection.devices'].includes('card-reader')
        ? null
        : {
            cause: 'People sign in once, with a card, and the card reader is not let through',
            consequence: 'Inside the session the card is missing: they sign in again, by password',
            remedy: setHere(facts, 'redirection.devices', ['card-reader'], (where) => `Let the card reader through ${where}`),
          },
  },
  {
    rule: 'a TLS version that the gateway does not speak',
    about: ['security.tlsMinimum'],
    detect: ({ facts, settings }) => {
      const { tlsHighest, name } = facts.gateway;
      if (tlsHighest === undefined || compareVersions(settings['security.tlsMinimum'], tlsHighest) <= 0) return null;
      return {
        cause: `TLS ${settings['security.tlsMinimum']} is the least, and ${name} speaks ${tlsHighest} at most`,
        consequence: 'Nobody gets through',
        remedy: setHere(
          facts,
          'security.tlsMinimum',
          tlsHighest,
          (where) => `Allow TLS ${tlsHighest} ${where}, until the gateway speaks more`,
        ),
      };
    },
  },
  {
    rule: 'a version asked for that the client does not have',
    about: ['client.versionFloor'],
    detect: ({ facts, settings }) => {
      const { clientVersion, id } = facts.endpoint;
      if (clientVersion === undefined || compareVersions(clientVersion, settings['client.versionFloor']) >= 0) return null;
      return {
        cause: `Clients below ${settings['client.versionFloor']} are refused, and ${id} has ${clientVersion}`,
        consequence: 'It is turned away at the gateway',
        remedy: { text: `Bring ${id} to ${settings['client.versionFloor']}`, change: noChange, ask: 'somebody has to do it' },
      };
    },
  },
  {
    rule: 'a second factor that is over before it is answered',
    about: ['security.secondFactorTimeoutS'],
    detect: ({ facts, settings }) =>
      !asksSecondFactor(facts, settings) || settings['security.secondFactorTimeoutS'] >= secondFactorLeastS
        ? null
        : {
            cause: `The second factor waits ${settings['security.secondFactorTimeoutS']} s, and people need about ${secondFactorLeastS} s`,
            consequence: 'They are thrown out while they look for their telephone',
            remedy: setHere(facts, 'security.secondFactorTimeoutS', 60, (where) => `Let it wait 60 s ${where}`),
          },
  },
  {
    rule: 'personal devices are refused, and this is one',
    about: ['security.personalDevices'],
    detect: ({ facts, settings }) =>
      settings['security.personalDevices'] !== 'refused' || facts.endpoint.ownership !== 'personal'
        ? null
        : {
            cause: `Personal devices are refused, and ${facts.endpoint.id} is the one that ${facts.person.name} has`,
            consequence: 'They do not get in at all',
            remedy: setHere(facts, 'security.personalDevices', 'limited', (where) => `Limit them instead ${where}`),
          },
  },
  {
    rule: 'storage let through to a personal device that is limited',
    about: ['redirection.devices', 'security.personalDevices'],
    detect: ({ facts, settings }) =>
      settings['security.personalDevices'] !== 'limited' ||
      facts.endpoint.ownership !== 'personal' ||
      !settings['redirection.devices'].includes('storage')
        ? null
        : {
            cause: 'Storage is let through, and personal devices are limited',
            consequence: 'It is let through for nobody here, though the list says so',
            remedy: setHere(facts, 'redirection.devices', ['-storage'], (where) => `Take storage away ${where}`),
          },
  },
  {
    rule: 'UDP where the gateway has none',
    about: ['transport.prefer'],
    detect: ({ facts, settings, isSet }) =>
      !isSet('transport.prefer') || settings['transport.prefer'] !== 'udp' || facts.gateway.udp !== false
        ? null
        : {
            cause: `UDP is preferred, and ${facts.gateway.name} takes TCP alone`,
            consequence: 'TCP is used; where it is tried first, every sign-on waits for it',
            remedy: setHere(facts, 'transport.prefer', 'tcp', (where) => `Use TCP ${where}`),
          },
  },
  {
    rule: 'repair ahead over TCP',
    about: ['transport.repair', 'transport.prefer'],
    detect: ({ facts, settings, session: { transport } }) =>
      settings['transport.repair'] !== 'forward' || transport !== 'tcp'
        ? null
        : {
            cause: 'Loss is to be mended by data sent ahead, and the session goes over TCP',
            consequence: 'TCP sends again by itself: what is sent ahead is for nothing',
            remedy: setHere(facts, 'transport.repair', 'resend', (where) => `Send again ${where}`),
          },
  },
  {
    rule: 'a share of repair data that nothing uses',
    about: ['transport.repairShare', 'transport.repair'],
    detect: ({ facts, settings, isSet }) =>
      !isSet('transport.repairShare') || settings['transport.repair'] === 'forward'
        ? null
        : {
            cause: `${settings['transport.repairShare']} % of repair data are meant, and loss is mended by “${settings['transport.repair']}”`,
            consequence: 'The share does nothing',
            remedy: setHere(facts, 'transport.repair', 'forward', (where) => `Mend ahead ${where}`),
          },
  },
];
