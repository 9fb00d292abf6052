import type { OpenSession } from '@underpass/contracts';

/** What a portal may do with sessions a person has elsewhere. "all" is what people are warned of, never a policy of ours. */
export const leftBehindChoices = ['ask', 'most recent', 'none', 'all'] as const;
export type LeftBehindChoice = (typeof leftBehindChoices)[number];

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
export const byUse = (sessions: readonly OpenSession[]): OpenSession[] =>
  [...sessions].sort((a, b) => (a.usedAt > b.usedAt ? -1 : a.usedAt < b.usedAt ? 1 : a.id < b.id ? -1 : 1));

/**
 * What each choice does for a person who opens a resource at an endpoint while sessions are left elsewhere.
 * @param sessions those of the person, on other endpoints than the one in front of them
 */
export function leftBehindOutcomes(
  sessions: readonly OpenSession[],
  resource: string,
  nameOf: (resource: string) => string,
): LeftBehindOutcome[] {
  const ordered = byUse(sessions);
  const [latest] = ordered;
  if (!latest) return [];
  const same = ordered.some((session) => session.resource === resource);
  const listed = ordered.map((session) => nameOf(session.resource)).join(', ');
  return [
    { choice: 'ask', takesUp: [], startsNew: false, does: `The portal asks which to take up: ${listed}, or a new one`, warning: null },
    {
      choice: 'most recent',
      takesUp: [latest.id],
      startsNew: latest.resource !== resource,
      does: `Takes up ${nameOf(latest.resource)}, last used ${latest.usedAt.slice(0, 16).replace('T', ' ')}`,
      warning: latest.resource === resource ? null : `${nameOf(latest.resource)} opens although ${nameOf(resource)} was wanted`,
    },
    {
      choice: 'none',
      takesUp: [],
      startsNew: true,
      does: `Starts ${nameOf(resource)} anew; what was left stays where it is`,
      warning: same ? `Work left open in ${nameOf(resource)} is not there, and its place on the host stays taken` : null,
    },
    {
      choice: 'all',
      takesUp: ordered.map(({ id }) => id),
      startsNew: !same,
      does: `Opens ${listed}${same ? '' : ` and ${nameOf(resource)}`}`,
      warning: ordered.length > 1 || !same ? `${ordered.length + (same ? 0 : 1)} sessions open on top of each other` : null,
    },
  ];
}
