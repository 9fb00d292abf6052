import type { OpenSession } from '@underpass/contracts';

/** What a portal may do with sessions a person has elsewhere. "all" is what people are warned of, never a policy of ours. */
export const leftBehindChoices = ['ask', 'most recent', 'none', 'all'] as const;
/** One of the ways a portal may treat sessions left elsewhere. */
export type LeftBehindChoice = (typeof leftBehindChoices)[number];

/** What comes of such a choice for a person. */
export interface LeftBehindOutcome {
  choice: LeftBehindChoice;
  /** Sessions taken up. */
  takesUp: string[];
  /** A new session is made beside the ones left. */
  startsNew: boolean;
  does: string;
  /** What goes wrong, or null. */
  warning: string | null;
}

/** Most recently used first. */
export const byUse = <T extends OpenSession>(sessions: readonly T[]): T[] =>
  [...sessions].sort((a, b) => (a.usedAt > b.usedAt ? -1 : a.usedAt < b.usedAt ? 1 : a.id < b.id ? -1 : 1));

/** A session as it is told of: with the name of what is open in it. */
type Told = OpenSession & { resourceName: string };

/**
 * What each choice does for a person who opens a resource at an endpoint while sessions are left elsewhere.
 * @param sessions those of the person, on other endpoints than the one in front of them
 */
export function leftBehindOutcomes(sessions: readonly Told[], wanted: { id: string; name: string }): LeftBehindOutcome[] {
  const ordered = byUse(sessions);
  const [latest] = ordered;
  if (!latest) return [];
  const same = ordered.some((session) => session.resource === wanted.id);
  const listed = ordered.map((session) => session.resourceName).join(', ');
  const other = latest.resource !== wanted.id;
  return [
    { choice: 'ask', takesUp: [], startsNew: false, does: `The portal asks which to take up: ${listed}, or a new one`, warning: null },
    {
      choice: 'most recent',
      takesUp: [latest.id],
      startsNew: false,
      does: `Takes up ${latest.resourceName}, last used ${latest.usedAt.slice(0, 16).replace('T', ' ')}`,
      warning: other ? `${latest.resourceName} opens although ${wanted.name} was wanted` : null,
    },
    {
      choice: 'none',
      takesUp: [],
      startsNew: true,
      does: `Starts ${wanted.name} anew; what was left stays where it is`,
      warning: same ? `Work left open in ${wanted.name} is not there, and its place on the host stays taken` : null,
    },
    {
      choice: 'all',
      takesUp: ordered.map(({ id }) => id),
      startsNew: !same,
      does: `Opens ${listed}${same ? '' : ` and ${wanted.name}`}`,
      warning: ordered.length > 1 || !same ? `${ordered.length + (same ? 0 : 1)} sessions open on top of each other` : null,
    },
  ];
}
