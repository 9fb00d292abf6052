import type { Bay } from '@underpass/contracts';

/** One step between switching on and the first useful picture. */
export interface SignonStep {
  name: string;
  bay: Bay;
  seconds: number;
  /** Spread of an assumed duration either way, s. */
  spreadS: number;
  /** Time of the person, not of a machine. */
  byPerson: boolean;
  source: 'measured' | 'assumed' | 'computed';
  /** Steps that must be over before this one starts. */
  after: readonly string[];
}

export interface Timeline {
  steps: SignonStep[];
  totalS: number;
  lowS: number;
  highS: number;
  /** Names of the steps on the longest way. */
  critical: string[];
}

/** The longest way through the steps and their dependencies. Steps come after those they wait for. */
export function criticalPath(steps: SignonStep[]): Timeline {
  const ends = new Map<string, { at: number; via: string | null; spread: number }>();
  let last: string | null = null;
  for (const step of steps) {
    let start = 0;
    let spread = 0;
    let via: string | null = null;
    for (const name of step.after) {
      const before = ends.get(name);
      if (before && before.at > start) {
        start = before.at;
        spread = before.spread;
        via = name;
      }
    }
    ends.set(step.name, { at: start + step.seconds, via, spread: spread + step.spreadS });
    if (last === null || start + step.seconds >= (ends.get(last)?.at ?? 0)) last = step.name;
  }
  const critical: string[] = [];
  for (let name = last; name !== null; name = ends.get(name)?.via ?? null) critical.unshift(name);
  const end = last === null ? { at: 0, spread: 0 } : (ends.get(last) as { at: number; spread: number });
  return { steps, totalS: end.at, lowS: Math.max(0, end.at - end.spread), highS: end.at + end.spread, critical };
}
