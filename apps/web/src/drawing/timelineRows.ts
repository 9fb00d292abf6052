import type { SourceWord } from '../ui/SourceMark.js';

export interface TimelineRow {
  name: string;
  startS: number;
  seconds: number;
  source: SourceWord;
  byPerson: boolean;
  critical: boolean;
  /** Time of the person before it starts, s. */
  personS?: number;
  /** How it was before the change; absent where nothing is compared or the step was not there. */
  before?: { startS: number; seconds: number };
  /** The change does without this step: only how it was is drawn. */
  gone?: boolean;
}

/** The rows after a change, each with how it was; steps that the change does without stay at their place. */
export function comparedRows(after: readonly TimelineRow[], before: readonly TimelineRow[]): TimelineRow[] {
  const was = new Map(before.map((step) => [step.name, { startS: step.startS, seconds: step.seconds }]));
  const rows = after.map((step): TimelineRow => {
    const known = was.get(step.name);
    return known ? { ...step, before: known } : step;
  });
  for (const [i, step] of before.entries()) {
    if (rows.some(({ name }) => name === step.name)) continue;
    const previous = before[i - 1]?.name;
    rows.splice(rows.findIndex(({ name }) => name === previous) + 1, 0, {
      ...step,
      critical: false,
      gone: true,
      before: { startS: step.startS, seconds: step.seconds },
    });
  }
  return rows;
}
