import type { CrossingRef } from '../estate/index.js';
import { defaultSignInsPerDay, defaultWorkingDays, hoursAYear, shortcutsFor, type Shortcut } from '../signon/index.js';
import type { FactsReader } from './factsFor.js';
import { computeFigures } from './figures.js';

export interface GroupSaving {
  id: Shortcut['id'];
  name: string;
  /** People whom it makes quicker. */
  people: number;
  /** Mean over those, s. */
  savedS: number;
  hoursAYear: number;
}
export interface GroupSignon {
  people: number;
  /** Mean time until usable over their crossings, s. */
  meanS: number;
  signInsPerDay: number;
  workingDays: number;
  savings: GroupSaving[];
}

/**
 * What each shortcut would save a set of people in a year. Each person counts once, with their first crossing among those given.
 */
export function signonSavings(reader: FactsReader, crossings: readonly CrossingRef[]): GroupSignon {
  const { organisation } = reader.model;
  const signInsPerDay = organisation.signInsPerDay ?? defaultSignInsPerDay;
  const workingDays = organisation.workingDays ?? defaultWorkingDays;
  const met = new Set<string>();
  const sums = new Map<Shortcut['id'], { name: string; people: number; seconds: number }>();
  let total = 0;
  for (const ref of crossings) {
    if (met.has(ref.person)) continue;
    const facts = reader.read(ref);
    if (!facts) continue;
    met.add(ref.person);
    const { signon, timeline } = computeFigures(facts);
    total += timeline.totalS;
    for (const { id, name, savedS } of shortcutsFor(signon)) {
      const sum = sums.get(id) ?? { name, people: 0, seconds: 0 };
      sums.set(id, sum);
      if (savedS <= 0) continue;
      sum.people++;
      sum.seconds += savedS;
    }
  }
  return {
    people: met.size,
    meanS: met.size ? total / met.size : 0,
    signInsPerDay,
    workingDays,
    savings: [...sums]
      .map(([id, { name, people, seconds }]) => ({
        id,
        name,
        people,
        savedS: people ? seconds / people : 0,
        hoursAYear: hoursAYear(seconds, signInsPerDay, 1, workingDays),
      }))
      .sort((a, b) => b.hoursAYear - a.hoursAYear),
  };
}
