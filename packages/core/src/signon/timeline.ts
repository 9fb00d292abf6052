import type { Bay } from '@underpass/contracts';

/** One step between switching on and the first useful picture. */
export interface SignonStep {
  name: string;
  bay: Bay;
  seconds: number;
  /** Spread of an assumed duration either way, s. */
  spreadS: number;
  /** What may come on top beyond the spread, s: a size that is not known. */
  moreS?: number;
  /** Time of the person, not of a machine. */
  byPerson: boolean;
  source: 'measured' | 'assumed' | 'computed';
  /** Steps that must be over before this one starts. */
  after: readonly string[];
}

/** The sign-on from start to the first useful picture, s. */
export interface Timeline {
  steps: SignonStep[];
  totalS: number;
  lowS: number;
  highS: number;
  /** Names of the steps on the longest way. */
  critical: string[];
}

/** A step placed in time, for the bar timeline. */
export interface TimelineStep {
  name: string;
  bay: Bay;
  startS: number;
  seconds: number;
  source: SignonStep['source'];
  byPerson: boolean;
  critical: boolean;
}

/** The steps with their starts. Each starts when the last of those it waits for is over. */
export function timelineSteps({ steps, critical }: Pick<Timeline, 'steps' | 'critical'>): TimelineStep[] {
  const ends = new Map<string, number>();
  const onPath = new Set(critical);
  return steps.map(({ name, bay, seconds, source, byPerson, after }) => {
    const startS = Math.max(0, ...after.map((earlier) => ends.get(earlier) ?? 0));
    ends.set(name, startS + seconds);
    return { name, bay, startS, seconds, source, byPerson, critical: onPath.has(name) };
  });
}

/** The longest way through the steps and their dependencies. Steps come after those they wait for. */
export function criticalPath(steps: SignonStep[]): Timeline {
  const n = steps.length;
  const ends: number[] = [];
  const spreads: number[] = [];
  const mores: number[] = [];
  const via: number[] = [];
  let last = -1;
  for (let i = 0; i < n; i++) {
    const step = steps[i] as SignonStep;
    let start = 0;
    let spread = 0;
    let more = 0;
    let from = -1;
    for (const name of step.after)
      for (let j = i - 1; j >= 0; j--) {
        if ((steps[j] as SignonStep).name !== name) continue;
        if ((ends[j] as number) > start) {
          start = ends[j] as number;
          spread = spreads[j] as number;
          more = mores[j] as number;
          from = j;
        }
        break;
      }
    ends.push(start + step.seconds);
    spreads.push(spread + step.spreadS);
    mores.push(more + (step.moreS ?? 0));
    via.push(from);
    if (last < 0 || (ends[i] as number) >= (ends[last] as number)) last = i;
  }
  const critical: string[] = [];
  for (let i = last; i >= 0; i = via[i] as number) critical.push((steps[i] as SignonStep).name);
  critical.reverse();
  const total = last < 0 ? 0 : (ends[last] as number);
  const spread = last < 0 ? 0 : (spreads[last] as number);
  const more = last < 0 ? 0 : (mores[last] as number);
  return { steps, totalS: total, lowS: Math.max(0, total - spread), highS: total + spread + more, critical };
}
