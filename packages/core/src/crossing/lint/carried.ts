import { definitionOf, obeys, type SettingKey } from '../../settings/index.js';
import { setHere } from '../setHere.js';
import type { LintRule } from './rule.js';

/** Difference between the desk's time and the host's, in minutes, at an instant. */
function minutesApart(here: string, there: string, atMs: number): number {
  const offset = (zone: string) => {
    const parts = new Intl.DateTimeFormat('en-GB', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' }).format(atMs);
    const [, day, month, year, hour, minute] = /(\d+)\/(\d+)\/(\d+), (\d+):(\d+)/.exec(parts) ?? [];
    return Date.UTC(Number(year), Number(month) - 1, Number(day), Number(hour), Number(minute)) / 60_000;
  };
  return Math.abs(offset(here) - offset(there));
}

const redirectionSwitches: readonly SettingKey[] = ['redirection.serial', 'redirection.location'];

/** Checks of what is carried in and out, and of what is remembered of people. */
export const carriedRules: readonly LintRule[] = [
  {
    rule: 'passwords kept on a device of somebody’s own',
    about: ['security.savedPasswords'],
    detect: ({ facts, settings }) =>
      !settings['security.savedPasswords'] || facts.endpoint.ownership !== 'personal'
        ? null
        : {
            cause: 'Passwords are kept, and the device is nobody’s of ours',
            consequence: 'Whoever has the device has the way in',
            remedy: setHere(facts, 'security.savedPasswords', false, (where) => `Keep none ${where}`),
          },
  },
  {
    rule: 'passwords kept on a shared device',
    about: ['security.savedPasswords', 'client.nextPerson'],
    detect: ({ facts, settings }) =>
      !settings['security.savedPasswords'] || facts.endpoint.users.length < 2
        ? null
        : {
            cause: `Passwords are kept, and ${facts.endpoint.users.length} people share ${facts.endpoint.id}`,
            consequence: 'The second comes in as the first',
            remedy: setHere(facts, 'security.savedPasswords', false, (where) => `Keep none ${where}`),
          },
  },
  {
    rule: 'the clipboard lets data out with guests',
    about: ['redirection.clipboard', 'security.guests'],
    detect: ({ facts, settings }) =>
      !facts.subject.guest || settings['security.guests'] !== 'as everybody' || !['both', 'out'].includes(settings['redirection.clipboard'])
        ? null
        : {
            cause: `${facts.person.name} is a guest, and may copy out of the session`,
            consequence: 'Data leaves with somebody whom another organisation answers for',
            remedy: setHere(facts, 'security.guests', 'nothing leaves', (where) => `Let nothing leave with guests ${where}`),
          },
  },
  {
    rule: 'a guest’s picture without their name',
    about: ['security.watermark', 'security.guests'],
    detect: ({ facts, settings }) =>
      !facts.subject.guest || settings['security.watermark'] || settings['security.guests'] === 'as everybody'
        ? null
        : {
            cause: 'Nothing leaves with guests, and a photograph of their screen does',
            consequence: 'Nobody can tell whose it was',
            remedy: setHere(facts, 'security.watermark', true, (where) => `Draw the name over the picture ${where}`),
          },
  },
  {
    rule: 'files held out of the clipboard, and drives that let them out',
    about: ['redirection.clipboardHolds', 'redirection.drives'],
    detect: ({ facts, settings }) =>
      settings['redirection.clipboardHolds'] !== 'text only' ||
      !['all', 'removable'].includes(settings['redirection.drives']) ||
      !settings['redirection.devices'].includes('storage')
        ? null
        : {
            cause: 'The clipboard holds text alone so that no file leaves, and drives may be written to',
            consequence: 'Files leave by the drive',
            remedy: setHere(facts, 'redirection.drives', 'read only', (where) => `Let drives be read only ${where}`),
          },
  },
  {
    rule: 'drives set, and storage not let through',
    about: ['redirection.drives', 'redirection.devices'],
    detect: ({ facts, settings, isSet }) =>
      !isSet('redirection.drives') || settings['redirection.drives'] === 'none' || settings['redirection.devices'].includes('storage')
        ? null
        : {
            cause: `Drives are set to “${settings['redirection.drives']}”, and storage is not among the devices let through`,
            consequence: 'A stick does not appear',
            remedy: setHere(facts, 'redirection.devices', ['storage'], (where) => `Let storage through ${where}`),
          },
  },
  {
    rule: 'a label printer by the general driver',
    about: ['redirection.printers'],
    detect: ({ facts, settings }) =>
      settings['redirection.printers'] !== 'general driver' ||
      facts.endpoint.deviceClass !== 'kiosk' ||
      !facts.endpoint.peripherals.includes('printer')
        ? null
        : {
            cause: `Printers go by the general driver, and ${facts.endpoint.id} is a kiosk whose printer prints tickets or labels`,
            consequence: 'It prints them too large, or cuts in the wrong place',
            remedy: setHere(facts, 'redirection.printers', 'all', (where) => `Take each printer’s own driver ${where}`),
          },
  },
  {
    rule: 'a raw camera that no line carries',
    about: ['redirection.camera'],
    detect: ({ facts, settings }) =>
      settings['redirection.camera'] !== 'as raw USB' || !facts.endpoint.peripherals.includes('camera')
        ? null
        : {
            cause: 'The camera goes as the raw device: 442 Mbit/s for 720 lines',
            consequence: 'Its picture never comes, and what the line has is gone',
            remedy: setHere(facts, 'redirection.camera', 'by channel', (where) => `Carry it by its channel ${where}`),
          },
  },
  {
    rule: 'a wait for sound longer than a conversation bears',
    about: ['sound.bufferMs', 'media.callOffload'],
    detect: ({ facts, settings }) =>
      settings['sound.bufferMs'] < 150 || !facts.resource.calls || settings['media.callOffload']
        ? null
        : {
            // ITU-T G.114: one way, 150 ms is what a conversation bears without being noticed
            cause: `Sound waits ${settings['sound.bufferMs']} ms, and a conversation bears 150 in all`,
            consequence: 'People fall into each other’s words',
            remedy: setHere(facts, 'sound.bufferMs', 40, (where) => `Let it wait 40 ms ${where}`),
          },
  },
  {
    rule: 'a hint of a thin line on a wide one',
    about: ['picture.networkHint'],
    detect: ({ facts, settings }) => {
      const mbps = facts.evidence.downMbps?.value ?? facts.line.downMbps;
      if (settings['picture.networkHint'] !== 'thin line' || mbps === undefined || mbps < 100) return null;
      return {
        cause: `The line is taken for a thin one, and has ${Math.round(mbps)} Mbit/s`,
        consequence: 'The desktop looks plain for nothing',
        remedy: setHere(facts, 'picture.networkHint', 'as set', (where) => `Show what is set ${where}`),
      };
    },
  },
  {
    rule: 'a hint of a fast line on a thin one',
    about: ['picture.networkHint'],
    detect: ({ facts, settings, demand }) => {
      const mbps = facts.evidence.downMbps?.value ?? facts.line.downMbps;
      if (settings['picture.networkHint'] !== 'fast line' || mbps === undefined || mbps > demand.p95Mbps * 2) return null;
      return {
        cause: `The line is taken for a fast one, and has ${Math.round(mbps * 10) / 10} Mbit/s`,
        consequence: 'Every effect is shown, and the work waits for it',
        remedy: setHere(facts, 'picture.networkHint', 'thin line', (where) => `Show no effects ${where}`),
      };
    },
  },
  {
    rule: 'few colours, and still areas exact',
    about: ['picture.colourDepth', 'picture.refineStill'],
    detect: ({ facts, settings }) =>
      settings['picture.colourDepth'] !== 16 || !settings['picture.refineStill']
        ? null
        : {
            cause: 'Still areas are sent exactly, in 16 bit of colour',
            consequence: 'Exact is what they are not: two thirds of the shades are gone before',
            remedy: setHere(facts, 'picture.refineStill', false, (where) => `Do not send them again ${where}`),
          },
  },
  {
    rule: 'devices connected by hand where nobody can',
    about: ['redirection.connect', 'client.kiosk'],
    detect: ({ facts, settings }) =>
      settings['redirection.connect'] !== 'by hand' || !settings['client.kiosk'] || facts.endpoint.peripherals.length === 0
        ? null
        : {
            cause: 'Devices are connected by hand, and the device is locked to the session',
            consequence: 'Nobody reaches the switch: they never appear',
            remedy: setHere(facts, 'redirection.connect', 'plugged in', (where) => `Connect them when they are plugged in ${where}`),
          },
  },
  {
    rule: 'the host’s time shown to people elsewhere',
    about: ['redirection.timeZone'],
    detect: ({ facts, settings }) => {
      const [host] = facts.hosts;
      const hostZone = host && facts.estate.regions.get(host.region)?.timeZone;
      const apart = settings['redirection.timeZone'] || !hostZone ? 0 : minutesApart(facts.location.timeZone, hostZone, facts.atMs);
      if (apart === 0) return null;
      return {
        cause: `The session shows the host’s time, and at ${facts.location.name} it is ${apart} min another`,
        consequence: 'Meetings and tickets are off by as much',
        remedy: setHere(facts, 'redirection.timeZone', true, (where) => `Show the time of the desk ${where}`),
      };
    },
  },
  {
    rule: 'something let in that the client has no way for',
    about: redirectionSwitches,
    detect: ({ facts, settings }) => {
      const key = redirectionSwitches.find((each) => settings[each] === true && !obeys(each, facts.endpoint));
      const place = settings['redirection.location'] && facts.endpoint.platform === 'thin';
      if (!key && !place) return null;
      const label = definitionOf(key ?? 'redirection.location')?.label ?? '';
      return {
        cause: `“${label}” is let in, and a ${facts.endpoint.platform === 'thin' ? 'thin client' : facts.endpoint.clientKind} has no way for it`,
        consequence: 'Nothing comes of it',
        remedy: setHere(facts, key ?? 'redirection.location', false, (where) => `Take it away ${where}`),
      };
    },
  },
  {
    rule: 'the picture blocked for everybody who shares it in calls',
    about: ['security.screenshotBlock', 'media.callOffload'],
    detect: ({ facts, settings }) =>
      !settings['security.screenshotBlock'] || !settings['media.callOffload'] || !facts.resource.calls
        ? null
        : {
            cause: 'No program of the endpoint may take the picture of the session, and calls are held by one',
            consequence: 'Whoever shares their desktop in a call shows a black picture',
            remedy: setHere(facts, 'security.screenshotBlock', false, (where) => `Let it be taken ${where}`),
          },
  },
];
