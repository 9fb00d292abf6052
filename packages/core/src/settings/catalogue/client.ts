import { oneOf, onOff, versionOf } from './definition.js';

/** The program on the device, and the device itself. */
export const clientSettings = {
  'client.versionFloor': versionOf({
    label: 'Client from',
    does: 'Lowest client version accepted',
    default: '0',
    merge: 'strictest',
    source: 'our default: none',
    symptoms: ['client refused', 'must update'],
  }),
  'client.versionCeiling': versionOf({
    label: 'Client up to',
    does: 'Highest client version that was tried here; 0 means any',
    ceiling: true,
    default: '0',
    merge: 'strictest',
    source: 'our default: none',
    symptoms: ['broken since the update'],
  }),
  'client.updates': oneOf({
    label: 'Updates',
    does: 'Whether clients are held where they are, take what was tried here, or the newest',
    options: ['held', 'tried', 'newest'],
    default: 'tried',
    ignoredBy: ['browser'],
    symptoms: ['must update', 'broken since the update', 'client refused'],
  }),
  'client.powerOff': oneOf({
    label: 'At the end of the day',
    does: 'Whether the device stays on, sleeps or is switched off',
    options: ['stays on', 'sleeps', 'off'],
    default: 'stays on',
    ignoredOn: ['desktop', 'mobile'],
    symptoms: ['mornings take long', 'updates not taken'],
  }),
  'client.beside': oneOf({
    label: 'Beside the session',
    does: 'What else stands on the device: nothing, a spare browser, or local programs',
    options: ['nothing', 'spare browser', 'local programs'],
    default: 'local programs',
    ignoredOn: ['mobile'],
    symptoms: ['nothing works when the session is gone', 'call program missing'],
  }),
  'client.kiosk': onOff({
    label: 'Locked to the session',
    does: 'Nothing but the session can be reached on the device',
    safer: true,
    default: false,
    merge: 'strictest',
    symptoms: ['people leave the session', 'cannot reach settings of the device'],
  }),
  'client.nextPerson': onOff({
    label: 'Ready for the next person',
    does: 'A shared device forgets everything of a person when they leave',
    safer: true,
    default: false,
    merge: 'strictest',
    symptoms: ['sees the session of somebody else', 'name of the last person shown'],
  }),
};
