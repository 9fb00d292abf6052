import type { ObjectKind } from '@underpass/contracts';
import type { ObjectChange } from '@underpass/core';

type Plain = Record<string, unknown> & { id: string };
/** Finds an object of the demo as it is now. */
type Find = (kind: ObjectKind, id: string) => Plain | undefined;
/** One thing that was changed in the month before: when, by whom, and how each object had been. */
export interface PastStep {
  daysAgo: number;
  by: string;
  summary: string;
  /** Objects as they were before it; null where they were made by it. */
  were: (all: (kind: ObjectKind) => Iterable<object>, find: Find) => { kind: ObjectKind; id: string; object: Plain | null }[];
}

const was = (find: Find, kind: ObjectKind, id: string, fields: object): { kind: ObjectKind; id: string; object: Plain | null }[] => {
  const now = find(kind, id);
  return now ? [{ kind, id, object: { ...now, ...fields } }] : [];
};
const madeBy = (find: Find, kind: ObjectKind, id: string) => (find(kind, id) ? [{ kind, id, object: null }] : []);

/** How many days before it is loaded the demo was first written down. */
export const beganDaysAgo = 30;

/** What happened to the demo estate in its last month, the first first. Invented, as all of the demo. */
export const pastSteps: readonly PastStep[] = [
  {
    daysAgo: 23,
    by: 'Ines Farrow',
    summary: 'Clients at the Brack repair dock brought to 3.12.4',
    were: (all) =>
      [...(all('endpoint') as Iterable<Plain>)]
        .filter(({ location }) => location === 'brack')
        .map((object) => ({ kind: 'endpoint', id: object.id, object: { ...object, clientVersion: '3.4_96' } })),
  },
  {
    daysAgo: 16,
    by: 'Selma Thorne',
    summary: 'The second line at Tolmouth is in',
    were: (_, find) => was(find, 'location', 'tolmouth', { downMbps: 40, upMbps: 10 }),
  },
  { daysAgo: 11, by: 'Ines Farrow', summary: 'H.265 for Tolmouth', were: (_, find) => madeBy(find, 'setting', 'S005') },
  {
    daysAgo: 6,
    by: 'Ines Farrow',
    summary: 'Berth plan given to the control room',
    were: (_, find) => was(find, 'publication', 'control-apps', { resources: ['traffic', 'radio-log'] }),
  },
  { daysAgo: 2, by: 'Selma Thorne', summary: 'TCP at the Brack repair dock, UDP does not pass there', were: (_, find) => madeBy(find, 'setting', 'S007') },
];

/** The writes that put a step back, and those that make it, out of how things are now. */
export function writesOf(step: PastStep, all: (kind: ObjectKind) => Iterable<object>, find: Find): { back: ObjectChange[]; forth: ObjectChange[] } {
  const objects = step.were(all, find).map(({ kind, id, object }) => ({ kind, id, then: object, now: find(kind, id) ?? null }));
  return {
    back: objects.map(({ kind, id, then, now }) => ({ kind, id, before: now, after: then })),
    forth: objects.map(({ kind, id, then, now }) => ({ kind, id, before: then, after: now })),
  };
}
