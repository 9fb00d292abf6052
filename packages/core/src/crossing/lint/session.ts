import { noChange } from '../../change/index.js';
import { compareVersions } from '../../settings/index.js';
import { versionFloor } from '../ladder.js';
import { setHere } from '../setHere.js';
import { secondFactorLeastS } from './security.js';
import type { LintRule } from './rule.js';

/** A way through an address translator is kept open for two minutes at least where nothing comes [RFC 4787 REQ-5]. */
const mappingS = 120;
/** Lines that break off for moments as a matter of course; common practice, no source. */
const breaking: ReadonlySet<string> = new Set(['4g', '5g', 'radio', 'leo-satellite', 'geo-satellite']);
/** Largest packet that a line carries whole: PPPoE takes 8 of Ethernet's 1500 [RFC 2516 §7]; on the air, from memory. */
const wholeBytes: Readonly<Record<string, number>> = { dsl: 1492, '4g': 1420, '5g': 1420, 'leo-satellite': 1420, 'geo-satellite': 1420 };
/** Scale below which text on a fine screen is too small to read: half of what the screen is set to; common practice, no source. */
const farBelow = 0.7;

/** Checks of how a session begins, waits and ends, of the way it takes, and of the device. */
export const sessionRules: readonly LintRule[] = [
  {
    rule: 'an idle limit shorter than the second factor may take',
    about: ['session.idleMinutes', 'security.secondFactorTimeoutS'],
    detect: ({ facts, settings }) =>
      settings['session.idleMinutes'] * 60 >= settings['security.secondFactorTimeoutS']
        ? null
        : {
            cause: `A session is left after ${settings['session.idleMinutes']} min, and the second factor alone may take ${settings['security.secondFactorTimeoutS']} s`,
            consequence: 'Whoever looks for their telephone is thrown out while they do',
            remedy: setHere(
              facts,
              'security.secondFactorTimeoutS',
              Math.max(secondFactorLeastS, settings['session.idleMinutes'] * 60),
              (where) => `Let the second factor take no longer ${where}`,
            ),
          },
  },
  {
    rule: 'idle sessions that nothing keeps safe',
    about: ['session.idleMinutes', 'security.personalDevices'],
    detect: ({ facts, settings }) =>
      facts.endpoint.users.length < 2 || settings['session.idleMinutes'] < 480 || settings['session.cardGone'] !== 'nothing'
        ? null
        : {
            cause: `${facts.endpoint.users.length} people share ${facts.endpoint.id}, and an idle session stays open for ${settings['session.idleMinutes']} min`,
            consequence: 'The next person sits down in the session of the last',
            remedy: setHere(facts, 'session.idleMinutes', 15, (where) => `Leave it after 15 min ${where}`),
          },
  },
  {
    rule: 'left sessions that hold places others want',
    about: ['session.leftMinutes'],
    detect: ({ facts, settings }) => {
      const places = facts.hosts.reduce((sum, { places: each }) => sum + each, 0);
      const used = facts.hosts.reduce((sum, host) => sum + (host.used ?? 0), 0);
      if (places === 0 || used / places < 0.9 || settings['session.leftMinutes'] <= 1440) return null;
      return {
        cause: `${used} of ${places} places in ${facts.pool.name} are taken, and a session that somebody left stays for ${Math.round(settings['session.leftMinutes'] / 60)} h`,
        consequence: 'People who come find no place, while nobody sits at those that are held',
        remedy: setHere(facts, 'session.leftMinutes', 480, (where) => `End them after 8 h ${where}`),
      };
    },
  },
  {
    rule: 'a left session that ends before its person is back',
    about: ['session.leftMinutes', 'session.idleMinutes'],
    detect: ({ facts, settings }) =>
      settings['session.leftMinutes'] >= settings['session.idleMinutes'] || settings['session.leftMinutes'] >= 60
        ? null
        : {
            cause: `A session is ended ${settings['session.leftMinutes']} min after it is left`,
            consequence: 'What is open in it over lunch is gone',
            remedy: setHere(facts, 'session.leftMinutes', 480, (where) => `Keep it for 8 h ${where}`),
          },
  },
  {
    rule: 'no tries to come back on a line that breaks off',
    about: ['session.reconnectTries'],
    detect: ({ facts, settings }) =>
      settings['session.reconnectTries'] >= 3 || !breaking.has(facts.line.lineKind)
        ? null
        : {
            cause: `The client tries ${settings['session.reconnectTries']} times to come back, and a line by ${facts.line.lineKind} breaks off for moments`,
            consequence: 'At each of them the session closes, and its person starts again',
            remedy: setHere(facts, 'session.reconnectTries', 20, (where) => `Try 20 times ${where}`),
          },
  },
  {
    rule: 'signs of life that come too late',
    about: ['session.keepAliveS', 'transport.prefer'],
    detect: ({ facts, settings, session: { transport } }) =>
      settings['session.keepAliveS'] <= mappingS || transport !== 'udp'
        ? null
        : {
            cause: `A sign of life goes every ${settings['session.keepAliveS']} s, and a way over UDP is kept open for ${mappingS} s`,
            consequence: 'After a while without a key the session stands still until it is started anew',
            remedy: setHere(facts, 'session.keepAliveS', 60, (where) => `Send one every 60 s ${where}`),
          },
  },
  {
    rule: 'sign-in by card without a reader',
    about: ['session.tapCard'],
    detect: ({ facts, settings }) =>
      !settings['session.tapCard'] || facts.endpoint.peripherals.includes('card-reader')
        ? null
        : {
            cause: `People sign in by card, and ${facts.endpoint.id} has no reader`,
            consequence: 'They type their password',
            remedy: setHere(facts, 'session.tapCard', false, (where) => `Sign in by password ${where}`),
          },
  },
  {
    rule: 'a card that may go, where none comes',
    about: ['session.cardGone'],
    detect: ({ facts, settings }) =>
      settings['session.cardGone'] === 'nothing' ||
      settings['session.idleMinutes'] <= 15 ||
      facts.endpoint.peripherals.includes('card-reader')
        ? null
        : {
            cause: `When the card goes: ${settings['session.cardGone']}; and ${facts.endpoint.id} has no reader`,
            consequence: 'Nothing locks it: its session stays open',
            remedy: setHere(facts, 'session.idleMinutes', 15, (where) => `Leave idle sessions after 15 min ${where}`),
          },
  },
  {
    rule: 'any of several sessions taken up on a shared device',
    about: ['session.leftBehind'],
    detect: ({ facts, settings }) =>
      settings['session.leftBehind'] !== 'all' || facts.endpoint.platform !== 'thin'
        ? null
        : {
            cause: `All sessions left behind are taken up, and ${facts.endpoint.id} shows one`,
            consequence: 'They lie one over the other, and the lowest is forgotten',
            remedy: setHere(facts, 'session.leftBehind', 'most recent', (where) => `Take up the newest ${where}`),
          },
  },
  {
    rule: 'a packet larger than the line carries whole',
    about: ['transport.mtu'],
    detect: ({ facts, settings, isSet, session: { transport } }) => {
      const whole = wholeBytes[facts.line.lineKind];
      if (whole === undefined || !isSet('transport.mtu') || settings['transport.mtu'] <= whole || transport !== 'udp') return null;
      return {
        cause: `Packets have up to ${settings['transport.mtu']} bytes, and a line by ${facts.line.lineKind} carries ${whole} whole`,
        consequence: 'Large ones are broken in two or lost: it connects, and the picture freezes',
        remedy: setHere(facts, 'transport.mtu', whole, (where) => `Send ${whole} at most ${where}`),
      };
    },
  },
  {
    rule: 'a tunnel inside',
    about: ['transport.wayIn'],
    detect: ({ facts, settings }) =>
      settings['transport.wayIn'] !== 'tunnel' || !facts.location.inside
        ? null
        : {
            cause: `All traffic goes through a tunnel, and ${facts.location.name} is on the inside network`,
            consequence: 'It goes out and comes in again: delay for nothing',
            remedy: setHere(facts, 'transport.wayIn', 'gateway', (where) => `No tunnel ${where}`),
          },
  },
  {
    rule: 'a way past a tunnel that is not there',
    about: ['transport.pastTunnel', 'transport.wayIn'],
    detect: ({ facts, settings }) =>
      settings['transport.pastTunnel'] === 'nothing' || settings['transport.wayIn'] === 'tunnel'
        ? null
        : {
            cause: `${settings['transport.pastTunnel']} go past the tunnel, and the way in is “${settings['transport.wayIn']}”`,
            consequence: 'It does nothing',
            remedy: setHere(facts, 'transport.pastTunnel', 'nothing', (where) => `Take it away ${where}`),
          },
  },
  {
    rule: 'calls on the endpoint, and through the tunnel all the same',
    about: ['media.callOffload', 'transport.wayIn', 'transport.pastTunnel'],
    detect: ({ facts, settings }) =>
      !settings['media.callOffload'] || settings['transport.wayIn'] !== 'tunnel' || settings['transport.pastTunnel'] !== 'nothing'
        ? null
        : {
            cause: 'Calls are handled on the endpoint so that they go straight, and the tunnel takes them along',
            consequence: 'Voices come as late as through the session',
            remedy: setHere(facts, 'transport.pastTunnel', 'calls', (where) => `Let calls past the tunnel ${where}`),
          },
  },
  {
    rule: 'clients held below what is asked for',
    about: ['client.updates', 'client.versionFloor'],
    detect: ({ facts, settings }) => {
      const { clientVersion, id } = facts.endpoint;
      const floor = versionFloor(facts, settings);
      if (settings['client.updates'] !== 'held' || !floor || clientVersion === undefined) return null;
      if (compareVersions(clientVersion, floor.version) >= 0) return null;
      return {
        cause: `${id} is held at ${clientVersion}, and ${floor.by} asks for ${floor.version}`,
        consequence: 'It is turned away, and nothing ever brings it up',
        remedy: setHere(facts, 'client.updates', 'tried', (where) => `Let it take what was tried ${where}`),
      };
    },
  },
  {
    rule: 'a client above what was tried',
    about: ['client.versionCeiling'],
    detect: ({ facts, settings }) => {
      const { clientVersion, id } = facts.endpoint;
      const ceiling = settings['client.versionCeiling'];
      if (ceiling === '0' || clientVersion === undefined || compareVersions(clientVersion, ceiling) <= 0) return null;
      return {
        cause: `${id} has ${clientVersion}, and ${ceiling} is the highest that was tried`,
        consequence: 'What it does differently, people find out for you',
        remedy: { text: `Try ${clientVersion}, or bring ${id} back to ${ceiling}`, change: noChange, ask: 'somebody has to do it' },
      };
    },
  },
  {
    rule: 'updates that never find the device on',
    about: ['client.powerOff', 'client.updates'],
    detect: ({ facts, settings }) =>
      settings['client.powerOff'] === 'stays on' || settings['client.updates'] !== 'newest' || facts.endpoint.platform !== 'thin'
        ? null
        : {
            cause: `The newest version is taken at once, and ${facts.endpoint.id} is ${settings['client.powerOff'] === 'off' ? 'off' : 'asleep'} at night`,
            consequence: 'It is taken in the morning, while its person waits',
            remedy: setHere(facts, 'client.powerOff', 'stays on', (where) => `Leave it on at night ${where}`),
          },
  },
  {
    rule: 'a kiosk that people can leave',
    about: ['client.kiosk'],
    detect: ({ facts, settings }) =>
      facts.endpoint.deviceClass !== 'kiosk' || settings['client.kiosk']
        ? null
        : {
            cause: `${facts.endpoint.id} is a kiosk, and is not locked to its session`,
            consequence: 'Whoever stands before it gets at the device',
            remedy: setHere(facts, 'client.kiosk', true, (where) => `Lock it to the session ${where}`),
          },
  },
  {
    rule: 'locked to the session, with something beside it',
    about: ['client.kiosk', 'client.beside'],
    detect: ({ facts, settings, isSet }) =>
      !settings['client.kiosk'] || settings['client.beside'] === 'nothing' || !isSet('client.beside')
        ? null
        : {
            cause: `The device is locked to the session, and ${settings['client.beside']} are to stand beside it`,
            consequence: 'Nobody reaches them',
            remedy: setHere(facts, 'client.beside', 'nothing', (where) => `Take them away ${where}`),
          },
  },
  {
    rule: 'calls on the endpoint, and no program there that holds them',
    about: ['media.callOffload', 'client.beside', 'client.kiosk'],
    detect: ({ facts, settings }) =>
      !settings['media.callOffload'] || !facts.resource.calls || settings['client.beside'] === 'local programs'
        ? null
        : {
            cause: `Calls are handled on the endpoint, and beside the session stands ${settings['client.beside']}`,
            consequence: 'No program takes the call: it goes through the session, or not at all',
            remedy: setHere(facts, 'client.beside', 'local programs', (where) => `Let local programs stand beside it ${where}`),
          },
  },
  {
    rule: 'a shared device that remembers the last person',
    about: ['client.nextPerson'],
    detect: ({ facts, settings }) =>
      facts.endpoint.users.length < 2 || settings['client.nextPerson']
        ? null
        : {
            cause: `${facts.endpoint.users.length} people share ${facts.endpoint.id}, and it forgets nothing when one leaves`,
            consequence: 'The next one sees whose name and whose session was there',
            remedy: setHere(facts, 'client.nextPerson', true, (where) => `Make it ready for the next person ${where}`),
          },
  },
  {
    rule: 'text far smaller than the screen wants it',
    about: ['screens.scale'],
    detect: ({ facts, settings, session }) => {
      const screen = session.native?.find(({ scale }, i) => (session.screens[i]?.scale ?? scale) < scale * farBelow);
      if (settings['screens.scale'] === 'as the screen' || !screen) return null;
      return {
        cause: `Text is shown at ${settings['screens.scale']}, and a screen of ${facts.endpoint.id} is set to ${Math.round(screen.scale * 100)} %`,
        consequence: 'Text is too small to read',
        remedy: setHere(facts, 'screens.scale', 'as the screen', (where) => `Take the scale of each screen ${where}`),
      };
    },
  },
];
