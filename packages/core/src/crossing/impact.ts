import type { Verdict } from '@underpass/contracts';
import { modelOf, type CrossingRef, type EstateModel } from '../estate/index.js';
import { objectChanges, withObjectChanges } from './applyChange.js';
import type { Change } from './change.js';
import { noCounts, type Counts } from './board.js';
import { burden } from './effect.js';
import { FactsReader } from './factsFor.js';
import { computeFigures, worstVerdict } from './figures.js';

export interface Impact {
  before: Counts;
  after: Counts;
  crossings: number;
  changedVerdict: number;
  better: number;
  worse: number;
  moves: { from: Verdict; to: Verdict; people: number }[];
  /** The people who lose most, worst first. */
  losers: { crossing: string; person: string; from: Verdict; to: Verdict; text: string }[];
}

/** Measurements the changed model keeps: all of them. */
const measurementsOf = (model: EstateModel) => [...model.measurementsAt.values()].flat();

/** What an applicable change does, worked out exactly, crossing by crossing. */
export class ImpactTally {
  private readonly old: FactsReader;
  private readonly fresh: FactsReader;
  private readonly people = new Map<string, { from: Verdict; to: Verdict }>();
  private readonly losers: (Impact['losers'][number] & { by: number })[] = [];
  private counts = { crossings: 0, changedVerdict: 0, better: 0, worse: 0 };

  constructor(model: EstateModel, change: Change, atMs: number) {
    const find = (kind: string, id: string) => (model.estate[kind as 'host'] as { id: string }[]).find((object) => object.id === id);
    const next = modelOf(withObjectChanges(model.estate, objectChanges(change, find, model.estate.setting)), measurementsOf(model));
    this.old = new FactsReader(model, atMs);
    this.fresh = new FactsReader(next, atMs);
  }

  add(ref: CrossingRef): void {
    this.counts.crossings++;
    const [a, b] = [this.old.read(ref), this.fresh.read(ref)];
    if (!a || !b) return;
    const [before, after] = [computeFigures(a), computeFigures(b)];
    const by = burden(after) - burden(before);
    if (before.verdict !== after.verdict) this.counts.changedVerdict++;
    if (by < -0.5) this.counts.better++;
    else if (by > 0.5) {
      this.counts.worse++;
      this.losers.push({ crossing: ref.id, person: a.person.name, from: before.verdict, to: after.verdict, text: loss(before, after), by });
    }
    const known = this.people.get(ref.person) ?? { from: 'clear' as Verdict, to: 'clear' as Verdict };
    this.people.set(ref.person, { from: worstVerdict(known.from, before.verdict), to: worstVerdict(known.to, after.verdict) });
  }

  result(): Impact {
    const [before, after] = [noCounts(), noCounts()];
    const moves = new Map<string, Impact['moves'][number]>();
    for (const { from, to } of this.people.values()) {
      before[from]++;
      after[to]++;
      if (from === to) continue;
      const move = moves.get(`${from}${to}`) ?? { from, to, people: 0 };
      move.people++;
      moves.set(`${from}${to}`, move);
    }
    this.losers.sort((a, b) => b.by - a.by);
    return {
      before,
      after,
      ...this.counts,
      moves: [...moves.values()],
      losers: this.losers.slice(0, 10).map(({ by: _by, ...loser }) => loser),
    };
  }
}

function loss(before: ReturnType<typeof computeFigures>, after: ReturnType<typeof computeFigures>): string {
  if (after.frames.value < before.frames.value - 0.5)
    return `${Math.round(after.frames.value)} frames instead of ${Math.round(before.frames.value)}`;
  if (after.delay.value > before.delay.value + 1) return `${Math.round(after.delay.value)} ms instead of ${Math.round(before.delay.value)}`;
  if (after.timeline.totalS > before.timeline.totalS + 0.5)
    return `usable after ${Math.round(after.timeline.totalS)} s instead of ${Math.round(before.timeline.totalS)}`;
  if (after.session.resolutionShare < before.session.resolutionShare) return 'text is less sharp';
  return 'asks more of the line';
}
