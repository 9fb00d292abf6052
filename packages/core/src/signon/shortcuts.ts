import { signonTimeline, type SignonFacts } from './steps.js';

/** A way to be quicker, with what it saves. */
export interface Shortcut {
  id: 'entry link' | 'single resource' | 'single sign-on' | 'warm spare' | 'stays on';
  name: string;
  /** Seconds saved at every sign-in; 0 where it is in use already or brings nothing. */
  savedS: number;
  totalS: number;
  inUse: boolean;
}

const shortcuts: readonly { id: Shortcut['id']; name: string; inUse: (f: SignonFacts) => boolean; use: (f: SignonFacts) => SignonFacts }[] =
  [
    { id: 'entry link', name: 'Direct entry link', inUse: (f) => f.entryLink, use: (f) => ({ ...f, entryLink: true }) },
    {
      id: 'single resource',
      name: 'Start the only resource',
      inUse: (f) => f.entryLink || (f.resources === 1 && f.startOnly),
      use: (f) => ({ ...f, resources: 1, startOnly: true }),
    },
    { id: 'single sign-on', name: 'Single sign-on', inUse: (f) => f.singleSignOn, use: (f) => ({ ...f, singleSignOn: true }) },
    {
      id: 'warm spare',
      name: 'Warm spare host',
      inUse: (f) => !f.hostAsleep && !f.hostOff,
      use: (f) => ({ ...f, hostAsleep: false, hostOff: false }),
    },
    { id: 'stays on', name: 'Endpoint that stays on', inUse: (f) => f.alwaysOn, use: (f) => ({ ...f, alwaysOn: true }) },
  ];

/** What each shortcut by itself saves, the largest first. */
export function shortcutsFor(facts: SignonFacts): Shortcut[] {
  const before = signonTimeline(facts).totalS;
  return shortcuts
    .map(({ id, name, inUse, use }) => {
      const totalS = signonTimeline(use(facts)).totalS;
      return { id, name, savedS: Math.max(0, before - totalS), totalS, inUse: inUse(facts) };
    })
    .sort((a, b) => b.savedS - a.savedS);
}

/** The facts with a shortcut in use. */
export const withShortcut = (facts: SignonFacts, id: Shortcut['id']): SignonFacts =>
  shortcuts.find((each) => each.id === id)?.use(facts) ?? facts;

/** Sign-ins of a person on a working day, and working days of a year, where nothing else is known; common practice, no source. */
export const defaultSignInsPerDay = 2;
/** Working days of a year, where nothing else is known; common practice, no source. */
export const defaultWorkingDays = 220;

/** Person-hours a year: saved seconds × sign-ins a day × people × working days. */
export const hoursAYear = (savedS: number, signInsPerDay: number, people: number, workingDays: number): number =>
  (savedS * signInsPerDay * people * workingDays) / 3600;
