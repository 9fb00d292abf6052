import type { CrossingFacts } from '../src/crossing/index.js';
import {
  all,
  dock,
  endpoint,
  gateway,
  home,
  host,
  line,
  location,
  office,
  person,
  pool,
  region,
  resource,
  screens,
  setting,
  unmeasured,
  type Setup,
} from './scenes.js';

/** A check between settings, where it hits and where it just does not. */
export interface LintCase {
  from: CrossingFacts;
  /** Makes it hit. */
  hit: Setup;
  /** As near as can be, and no hit. */
  miss: Setup;
  says: RegExp;
}

const shared = endpoint({ users: ['P001', 'P002'] });
/** Everything that a shared device wants, so that one thing alone is missing. */
const ready = all(setting('client.nextPerson', true), setting('session.idleMinutes', 15));
const asEverybody = setting('security.guests', 'as everybody', 'organisation', '*');
const guest = person({ kind: 'guest' });
const onMobile = line({ lineKind: '4g' });

/** Checks of how a session begins, waits and ends, of its way and its device, and of what is carried. */
export const lintCases: Record<string, LintCase> = {
  'an idle limit shorter than the second factor may take': {
    from: office,
    hit: all(setting('session.idleMinutes', 1), setting('security.secondFactorTimeoutS', 61)),
    miss: all(setting('session.idleMinutes', 1), setting('security.secondFactorTimeoutS', 60)),
    says: /left after 1 min, and the second factor alone may take 61 s/,
  },
  'idle sessions that nothing keeps safe': {
    from: office,
    hit: all(shared, setting('client.nextPerson', true), setting('session.idleMinutes', 480)),
    miss: all(shared, setting('client.nextPerson', true), setting('session.idleMinutes', 479)),
    says: /2 people share SAN-TC-001, and an idle session stays open for 480 min/,
  },
  'left sessions that hold places others want': {
    from: office,
    hit: all(host({ places: 10, used: 9 }), setting('session.leftMinutes', 1441)),
    miss: all(host({ places: 100, used: 89 }), setting('session.leftMinutes', 1441)),
    says: /places in .* are taken, and a session that somebody left stays for 24 h/,
  },
  'a left session that ends before its person is back': {
    from: office,
    hit: setting('session.leftMinutes', 59),
    miss: setting('session.leftMinutes', 60),
    says: /ended 59 min after it is left/,
  },
  'no tries to come back on a line that breaks off': {
    from: office,
    hit: all(onMobile, setting('session.reconnectTries', 2)),
    miss: all(onMobile, setting('session.reconnectTries', 3)),
    says: /tries 2 times to come back, and a line by 4g/,
  },
  'signs of life that come too late': {
    from: office,
    hit: all(setting('transport.prefer', 'udp'), setting('session.keepAliveS', 121)),
    miss: all(setting('transport.prefer', 'udp'), setting('session.keepAliveS', 120)),
    says: /every 121 s, and a way over UDP is kept open for 120 s/,
  },
  'sign-in by card without a reader': {
    from: office,
    hit: setting('session.tapCard', true),
    miss: all(
      endpoint({ peripherals: ['card-reader'] }),
      setting('redirection.devices', ['card-reader']),
      setting('session.tapCard', true),
    ),
    says: /sign in by card, and SAN-TC-001 has no reader/,
  },
  'a card that may go, where none comes': {
    from: office,
    hit: setting('session.cardGone', 'lock'),
    miss: all(endpoint({ peripherals: ['card-reader'] }), setting('session.cardGone', 'lock')),
    says: /When the card goes: lock; and SAN-TC-001 has no reader/,
  },
  'any of several sessions taken up on a shared device': {
    from: office,
    hit: setting('session.leftBehind', 'all'),
    miss: setting('session.leftBehind', 'most recent'),
    says: /All sessions left behind are taken up, and SAN-TC-001 shows one/,
  },
  'a packet larger than the line carries whole': {
    from: office,
    hit: all(line({ lineKind: 'dsl' }), setting('transport.mtu', 1493)),
    miss: all(line({ lineKind: 'dsl' }), setting('transport.mtu', 1492)),
    says: /up to 1493 bytes, and a line by dsl carries 1492 whole/,
  },
  'a tunnel inside': {
    from: office,
    hit: all(location({ inside: true }), setting('transport.wayIn', 'tunnel')),
    miss: all(location({ inside: false }), setting('transport.wayIn', 'tunnel')),
    says: /goes through a tunnel, and .* is on the inside network/,
  },
  'a way past a tunnel that is not there': {
    from: office,
    hit: setting('transport.pastTunnel', 'calls'),
    miss: all(location({ inside: false }), setting('transport.pastTunnel', 'calls'), setting('transport.wayIn', 'tunnel')),
    says: /calls go past the tunnel, and the way in is “gateway”/,
  },
  'calls on the endpoint, and through the tunnel all the same': {
    from: home,
    hit: all(setting('media.callOffload', true), setting('transport.wayIn', 'tunnel')),
    miss: all(setting('media.callOffload', true), setting('transport.wayIn', 'tunnel'), setting('transport.pastTunnel', 'calls')),
    says: /so that they go straight, and the tunnel takes them along/,
  },
  'clients held below what is asked for': {
    from: office,
    hit: all(endpoint({ clientVersion: '4.0' }), setting('client.versionFloor', '4.1'), setting('client.updates', 'held')),
    miss: all(
      endpoint({ clientVersion: '4.1' }),
      gateway({ clientFloors: {} }),
      pool({ clientFloors: {} }),
      setting('client.versionFloor', '4.1'),
      setting('client.updates', 'held'),
    ),
    says: /is held at 4\.0, and .* asks for 4\./,
  },
  'a client above what was tried': {
    from: office,
    hit: all(endpoint({ clientVersion: '5.1' }), setting('client.versionCeiling', '5.0')),
    miss: all(endpoint({ clientVersion: '5.0' }), setting('client.versionCeiling', '5.0')),
    says: /has 5\.1, and 5\.0 is the highest that was tried/,
  },
  'updates that never find the device on': {
    from: office,
    hit: all(setting('client.updates', 'newest'), setting('client.powerOff', 'sleeps')),
    miss: all(setting('client.updates', 'tried'), setting('client.powerOff', 'sleeps')),
    says: /taken at once, and SAN-TC-001 is asleep at night/,
  },
  'a kiosk that people can leave': {
    from: office,
    hit: all(endpoint({ deviceClass: 'kiosk' }), setting('client.kiosk', false, 'device class', 'kiosk')),
    miss: all(endpoint({ deviceClass: 'kiosk' }), setting('client.kiosk', true)),
    says: /is a kiosk, and is not locked to its session/,
  },
  'locked to the session, with something beside it': {
    from: office,
    hit: all(setting('client.kiosk', true), setting('client.beside', 'spare browser')),
    miss: all(setting('client.kiosk', true), setting('client.beside', 'nothing')),
    says: /locked to the session, and spare browser are to stand beside it/,
  },
  'calls on the endpoint, and no program there that holds them': {
    from: home,
    hit: all(setting('media.callOffload', true), setting('client.beside', 'spare browser')),
    miss: all(setting('media.callOffload', true), setting('client.beside', 'local programs')),
    says: /beside the session stands spare browser/,
  },
  'a shared device that remembers the last person': {
    from: office,
    hit: all(shared, setting('client.nextPerson', false, 'organisation', '*'), setting('session.idleMinutes', 15)),
    miss: all(shared, ready),
    says: /2 people share SAN-TC-001, and it forgets nothing/,
  },
  'text far smaller than the screen wants it': {
    from: office,
    hit: all(screens({ scale: 1.5 }), setting('screens.scale', '100 %')),
    miss: all(screens({ scale: 1.25 }), setting('screens.scale', '100 %')),
    says: /shown at 100 %, and a screen of SAN-TC-001 is set to 150 %/,
  },
  'passwords kept on a device of somebody’s own': {
    from: office,
    hit: all(endpoint({ ownership: 'personal' }), setting('security.savedPasswords', true)),
    miss: all(endpoint({ ownership: 'managed' }), setting('security.savedPasswords', true)),
    says: /Passwords are kept, and the device is nobody’s of ours/,
  },
  'passwords kept on a shared device': {
    from: office,
    hit: all(shared, ready, setting('security.savedPasswords', true)),
    miss: all(endpoint({ users: ['P001'] }), ready, setting('security.savedPasswords', true)),
    says: /Passwords are kept, and 2 people share/,
  },
  'the clipboard lets data out with guests': {
    from: office,
    hit: all(guest, asEverybody, setting('redirection.clipboard', 'out')),
    miss: all(guest, asEverybody, setting('redirection.clipboard', 'in')),
    says: /is a guest, and may copy out/,
  },
  'a guest’s picture without their name': {
    from: office,
    hit: all(guest, setting('security.guests', 'nothing leaves')),
    miss: all(guest, setting('security.guests', 'nothing leaves'), setting('security.watermark', true)),
    says: /Nothing leaves with guests, and a photograph of their screen does/,
  },
  'files held out of the clipboard, and drives that let them out': {
    from: office,
    hit: all(
      setting('redirection.devices', ['storage']),
      setting('redirection.clipboardHolds', 'text only'),
      setting('redirection.drives', 'removable'),
    ),
    miss: all(
      setting('redirection.devices', ['storage']),
      setting('redirection.clipboardHolds', 'text only'),
      setting('redirection.drives', 'read only'),
    ),
    says: /so that no file leaves, and drives may be written to/,
  },
  'drives set, and storage not let through': {
    from: office,
    hit: setting('redirection.drives', 'read only'),
    miss: setting('redirection.drives', 'none'),
    says: /Drives are set to “read only”, and storage is not among/,
  },
  'a label printer by the general driver': {
    from: office,
    hit: all(
      endpoint({ deviceClass: 'kiosk', peripherals: ['printer'] }),
      setting('client.kiosk', true),
      setting('redirection.printers', 'general driver'),
    ),
    miss: all(
      endpoint({ deviceClass: 'kiosk', peripherals: [] }),
      setting('client.kiosk', true),
      setting('redirection.printers', 'general driver'),
    ),
    says: /by the general driver, and SAN-TC-001 is a kiosk/,
  },
  'a raw camera that no line carries': {
    from: office,
    hit: all(endpoint({ peripherals: ['camera'] }), setting('redirection.camera', 'as raw USB')),
    miss: all(endpoint({ peripherals: ['camera'] }), setting('redirection.camera', 'by channel')),
    says: /goes as the raw device: 442 Mbit\/s for 720 lines/,
  },
  'a wait for sound longer than a conversation bears': {
    from: home,
    hit: setting('sound.bufferMs', 150),
    miss: setting('sound.bufferMs', 149),
    says: /Sound waits 150 ms/,
  },
  'a hint of a thin line on a wide one': {
    from: dock,
    hit: setting('picture.networkHint', 'thin line'),
    miss: setting('picture.networkHint', 'as set'),
    says: /taken for a thin one, and has \d+ Mbit/,
  },
  'a hint of a fast line on a thin one': {
    from: office,
    hit: all(
      unmeasured,
      resource({ content: { motion: 1 } }),
      line({ downMbps: 1 }),
      setting('picture.networkHint', 'fast line'),
      setting('picture.frameCap', 120),
    ),
    miss: all(resource({ content: { still: 1 } }), setting('picture.networkHint', 'fast line')),
    says: /taken for a fast one, and has/,
  },
  'few colours, and still areas exact': {
    from: office,
    hit: all(setting('picture.colourDepth', 16), setting('picture.codec', 'bitmap'), setting('picture.refineStill', true)),
    miss: all(setting('picture.colourDepth', 24), setting('picture.codec', 'bitmap'), setting('picture.refineStill', true)),
    says: /sent exactly, in 16 bit/,
  },
  'devices connected by hand where nobody can': {
    from: office,
    hit: all(endpoint({ peripherals: ['headset'] }), setting('client.kiosk', true), setting('redirection.connect', 'by hand')),
    miss: all(endpoint({ peripherals: ['headset'] }), setting('client.kiosk', true), setting('redirection.connect', 'at start')),
    says: /connected by hand, and the device is locked/,
  },
  'the host’s time shown to people elsewhere': {
    from: office,
    hit: all(region({ timeZone: 'Europe/Oslo' }), location({ timeZone: 'Europe/London' }), setting('redirection.timeZone', false)),
    miss: all(region({ timeZone: 'Europe/Oslo' }), location({ timeZone: 'Europe/Paris' }), setting('redirection.timeZone', false)),
    says: /it is 60 min another/,
  },
  'something let in that the client has no way for': {
    from: office,
    hit: all(endpoint({ clientKind: 'browser', platform: 'desktop' }), setting('redirection.serial', true)),
    miss: all(endpoint({ clientKind: 'native client', platform: 'desktop' }), setting('redirection.serial', true)),
    says: /“Serial ports” is let in, and a browser has no way for it/,
  },
  'the picture blocked for everybody who shares it in calls': {
    from: home,
    hit: all(setting('security.screenshotBlock', true), setting('media.callOffload', true)),
    miss: all(setting('security.screenshotBlock', true), setting('media.callOffload', false)),
    says: /may take the picture of the session, and calls are held by one/,
  },
};
