import { asIf } from '../../../change/index.js';
import { setHere } from '../../setHere.js';
import { cost, figure, type FindingKind } from '../../finding.js';

/** Longer until usable than the work wants, s. */
export const slowToUsable: FindingKind = {
  kind: 'too long until it is usable',
  bay: 'Workspace',
  weight: 'limited',
  limits: ['usable'],
  explains: ['profile large or kept far from the host', 'the host is asleep'],
  detect: (facts, { timeline, usable, wanted, settings }) => {
    if (usable.verdict !== 'limited') return null;
    const { person, resource, endpoint } = facts;
    const longest = timeline.steps.reduce((most, step) => (step.seconds > most.seconds ? step : most));
    const set = (key: 'session.entryLink' | 'session.singleSignOn', text: string) =>
      setHere(facts, key, true, (where) => `${text} ${where}`);
    return {
      text: `${figure(timeline.totalS)} s until ${resource.name} is usable, wanted ${wanted.usableWithinS}; the longest step is ${longest.name}`,
      cost: cost.waiting(timeline.totalS - wanted.usableWithinS) + 40,
      costText: `${figure(timeline.totalS - wanted.usableWithinS)} s`,
      sure: 'rests on an assumption',
      evidence: () => [
        { source: 'computed', text: `${figure(timeline.totalS)} s of all steps one after the other, wanted ${wanted.usableWithinS}` },
        { source: 'assumed', text: `durations of the steps until they are measured; ${longest.name} ${figure(longest.seconds)} s` },
      ],
      remedies: () => [
        ...(settings['session.entryLink'] ? [] : [set('session.entryLink', 'Start from an entry link')]),
        ...(settings['session.singleSignOn'] || endpoint.ownership !== 'managed'
          ? []
          : [set('session.singleSignOn', 'Take the endpoint’s sign-in on')]),
        ...(resource.profileMB && resource.profileMB > 500
          ? [
              {
                text: 'Slim the profile to 200 MB',
                change: asIf('resource', resource.id, { profileMB: 200 }),
              },
            ]
          : []),
        ...(person.kind === 'guest'
          ? []
          : [
              {
                text: `Leave ${endpoint.name} switched on`,
                change: asIf('endpoint', endpoint.id, { alwaysOn: true }),
              },
            ]),
      ],
    };
  },
};
