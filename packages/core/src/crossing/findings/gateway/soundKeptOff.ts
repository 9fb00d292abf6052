import { setHere } from '../../setHere.js';
import { cost, type FindingKind } from '../../finding.js';

/** Calls go through a session whose sound, or whose microphone, a setting keeps off the device. */
export const soundKeptOff: FindingKind = {
  kind: 'calls without sound or microphone',
  bay: 'Gateway',
  weight: 'limited',
  limits: ['voice'],
  detect: (facts, { voice, settings }) => {
    if (!voice.kept) return null;
    const isSound = voice.kept === 'sound';
    return {
      text: isSound
        ? `Calls in ${facts.resource.name} are silent here: sound is heard ${settings['sound.play']}`
        : `Nobody hears ${facts.person.name} in calls: the microphone is kept out of the session`,
      cost: cost.device,
      costText: 'no calls',
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `people hold calls in ${facts.resource.name}, carried by the session` }],
      remedies: () => [
        isSound
          ? setHere(facts, 'sound.play', 'on the endpoint', (where) => `Play sound at the desk ${where}`)
          : setHere(facts, 'sound.microphone', true, (where) => `Let the microphone in ${where}`),
        setHere(facts, 'media.callOffload', true, (where) => `Handle calls at the desk ${where}`),
      ],
    };
  },
};
