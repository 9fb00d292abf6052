import { figureOf, oneOf, onOff } from './definition.js';

/** What is heard, and what of the microphone comes through. */
export const soundSettings = {
  'sound.play': oneOf({
    label: 'Sound is heard',
    does: 'Where the sound of a session plays',
    options: ['on the endpoint', 'on the host', 'nowhere'],
    default: 'on the endpoint',
    symptoms: ['no sound', 'sound does not work', 'headset silent'],
  }),
  'sound.quality': oneOf({
    label: 'Sound is sent',
    does: 'How much of a sound is kept: enough for speech, for everything, or all of it',
    options: ['for speech', 'balanced', 'in full'],
    default: 'balanced',
    symptoms: ['sound tinny', 'music sounds bad', 'line full'],
  }),
  'sound.microphone': onOff({
    label: 'Microphone',
    does: 'Lets the microphone into the session',
    default: true,
    symptoms: ['others do not hear me', 'microphone does not work'],
  }),
  'sound.bufferMs': figureOf({
    label: 'Sound waits',
    does: 'How long the sound of a session waits so that it comes evenly',
    unit: 'ms',
    min: 20,
    max: 300,
    steps: [20, 40, 100, 200],
    default: 40,
    ignoredBy: ['browser'],
    symptoms: ['sound breaks up', 'sound late', 'lips and sound apart'],
  }),
};
