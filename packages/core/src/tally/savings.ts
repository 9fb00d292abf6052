import type { Organisation } from '@underpass/contracts';
import type { CrossingRef } from '../estate/index.js';
import { defaultSignInsPerDay, defaultWorkingDays, hoursAYear, shortcutsFor, type Shortcut } from '../signon/index.js';
import { computeFigures, type CrossingFacts } from '../crossing/index.js';

/** What a shortcut of the sign-on saves a group: s each time, h a year. */
export interface GroupSaving {
  id: Shortcut['id'];
  name: string;
  /** People whom it makes quicker. */
  people: number;
  /** Mean over those, s. */
  savedS: number;
  hoursAYear: number;
}
/** The sign-on of a group, s, and what would shorten it. */
export interface GroupSignon {
  people: number;
  /** Mean time until usable over their crossings, s. */
  meanS: number;
  signInsPerDay: number;
  workingDays: number;
  savings: GroupSaving[];
}

/** What each shortcut would save a set of people in a year. Each person counts once, with the first crossing of theirs that is added. */
export class SavingsTally {
  private readonly met = new Set<string>();
  private readonly sums = new Map<Shortcut['id'], { name: string; people: number; seconds: number }>();
  private totalS = 0;

  constructor(private readonly organisation: Pick<Organisation, 'signInsPerDay' | 'workingDays'>) {}

  add(ref: CrossingRef, read: () => CrossingFacts | null): void {
    const facts = this.met.has(ref.person) ? null : read();
    if (!facts) return;
    this.met.add(ref.person);
    const { signon, timeline } = computeFigures(facts);
    this.totalS += timeline.totalS;
    for (const { id, name, savedS } of shortcutsFor(signon)) {
      const sum = this.sums.get(id) ?? { name, people: 0, seconds: 0 };
      this.sums.set(id, sum);
      if (savedS <= 0) continue;
      sum.people++;
      sum.seconds += savedS;
    }
  }

  result(): GroupSignon {
    const people = this.met.size;
    const signInsPerDay = this.organisation.signInsPerDay ?? defaultSignInsPerDay;
    const workingDays = this.organisation.workingDays ?? defaultWorkingDays;
    return {
      people,
      meanS: people ? this.totalS / people : 0,
      signInsPerDay,
      workingDays,
      savings: [...this.sums]
        .map(([id, { name, people: quicker, seconds }]) => ({
          id,
          name,
          people: quicker,
          savedS: quicker ? seconds / quicker : 0,
          hoursAYear: hoursAYear(seconds, signInsPerDay, 1, workingDays),
        }))
        .sort((a, b) => b.hoursAYear - a.hoursAYear),
    };
  }
}
