import type { Change, Verdict } from '@underpass/contracts';
import type { CrossingRef } from '../estate/index.js';
import {
  Alike,
  computeFigures,
  noCounts,
  touchedBy,
  worstVerdict,
  type Counts,
  type CrossingFigures,
  type FactsReader,
  type Summary,
} from '../crossing/index.js';
import { plural } from '../units/words.js';
import { burdenOnce } from '../crossing/effect.js';

/** What a change does to everybody it touches, counted in people and crossings. */
export interface Impact {
  before: Counts;
  after: Counts;
  /** Crossings that were looked at, and those of them whose verdict becomes another one. */
  crossings: number;
  changedVerdict: number;
  better: number;
  worse: number;
  /** Crossings that there would be newly, or no more. */
  come: number;
  gone: number;
  moves: { from: Verdict; to: Verdict; people: number }[];
  /** The people who lose most, worst first. */
  losers: { crossing: string; person: string; place: string; from: Verdict; to: Verdict; text: string }[];
  /** The people who gain most, most first. */
  winners: Impact['losers'];
  /** Crossings that open now and would not any more. */
  newlyBlocked: number;
  /** Crossings that stay in their verdict and whose figures move. */
  improved: number;
  weakened: number;
  /** Shared lines whose load becomes another, the fullest first; shares of what they carry, 0 to 1. */
  lines: { location: string; name: string; before: number; after: number; rateMbps: number | null }[];
  /** What moves beside the verdict, counted in crossings; null where the estate is too large to look at both sides of each. */
  beside: { devicesStop: number; devicesStart: number; softer: number; sharper: number; secondsMean: number } | null;
}

const mostLosers = 10;
const mostLines = 20;
const mostWinners = 5;
/** Up to this many crossings both sides of each are looked at. */
const mostBeside = 20_000;

/**
 * What a change does to the estate, worked out exactly, crossing by crossing. Only what the change touches is looked at; whose
 * crossings are untouched keeps the verdict that is known.
 */
export class ImpactTally {
  private readonly fresh: FactsReader;
  private readonly before: Alike<CrossingFigures>;
  private readonly after: Alike<CrossingFigures>;
  private readonly people = new Map<string, { from: Verdict; to: Verdict }>();
  private losers: Moved[] = [];
  private winners: Moved[] = [];
  private counts = { crossings: 0, changedVerdict: 0, better: 0, worse: 0, come: 0, gone: 0, newlyBlocked: 0, improved: 0, weakened: 0 };
  private readonly besides = { devicesStop: 0, devicesStart: 0, softer: 0, sharper: 0, seconds: 0, looked: 0 };
  /** One crossing of each shared line. */
  private readonly ofLine = new Map<string, CrossingRef>();
  /** Crossings to add, each once. */
  readonly crossings: readonly CrossingRef[];
  private readonly everything: boolean;
  private readonly touched: ReadonlySet<string>;
  private readonly come: ReadonlySet<string>;
  private readonly gone: ReadonlySet<string>;

  /**
   * @param known what a crossing comes to as it is, where that is known already
   */
  constructor(
    private readonly old: FactsReader,
    change: Change,
    private readonly known: (ref: CrossingRef) => Stand | undefined,
  ) {
    this.before = new Alike((facts) => computeFigures(facts));
    this.after = new Alike((facts) => computeFigures(facts));
    this.fresh = old.after(change);
    const { touch, after, come, gone } = touchedBy(old, this.fresh);
    this.everything = touch.everything;
    this.crossings = gone.length ? [...after, ...gone] : after;
    this.touched = new Set(touch.everything ? [] : this.crossings.map(({ id }) => id));
    this.come = new Set(come.map(({ id }) => id));
    this.gone = new Set(gone.map(({ id }) => id));
  }

  add(ref: CrossingRef): void {
    this.counts.crossings++;
    const isFew = this.crossings.length <= mostBeside;
    const known = this.known(ref);
    // both sides are looked at where that is soon done, whatever is known already
    const was = this.come.has(ref.id) || (known && !isFew) ? null : figuresOf(this.old, ref, this.before);
    const is = this.gone.has(ref.id) ? null : figuresOf(this.fresh, ref, this.after);
    const before = this.come.has(ref.id) ? null : (known ?? standOf(was));
    const after = standOf(is);
    if (was && is) this.lookBeside(was, is);
    if (!this.ofLine.has(ref.location)) this.ofLine.set(ref.location, ref);
    if (before && after) this.weigh(ref, before, after);
    else if (after) this.counts.come++;
    else if (before) this.counts.gone++;
    this.see(ref.person, before?.verdict, after?.verdict);
  }

  private weigh(ref: CrossingRef, before: Stand, after: Stand): void {
    const by = after.burden - before.burden;
    if (before.verdict !== after.verdict) this.counts.changedVerdict++;
    else if (by < -0.5) this.counts.improved++;
    else if (by > 0.5) this.counts.weakened++;
    if (after.verdict === 'blocked' && before.verdict !== 'blocked') this.counts.newlyBlocked++;
    const moved: Moved = { ref, from: before.verdict, to: after.verdict, by: Math.abs(by) };
    // only the first are told, so only they are kept
    if (by < -0.5) {
      this.counts.better++;
      this.winners.push(moved);
      if (this.winners.length > 50 * mostLosers) this.winners = worstOf(this.winners);
    } else if (by > 0.5) {
      this.counts.worse++;
      this.losers.push(moved);
      if (this.losers.length > 50 * mostLosers) this.losers = worstOf(this.losers);
    }
  }

  /** What somebody would notice beside the verdict. */
  private lookBeside(was: CrossingFigures, is: CrossingFigures): void {
    const { besides } = this;
    besides.looked++;
    besides.seconds += is.timeline.totalS - was.timeline.totalS;
    const working = ({ desk }: CrossingFigures) => desk.filter(({ works }) => works === true).length;
    const devices = working(is) - working(was);
    if (devices < 0) besides.devicesStop++;
    else if (devices > 0) besides.devicesStart++;
    const sharp = ({ session, frames }: CrossingFigures) => session.resolutionShare * frames.quality;
    const sharper = sharp(is) - sharp(was);
    if (sharper < -0.005) besides.softer++;
    else if (sharper > 0.005) besides.sharper++;
  }

  /** How full each shared line is before and after. */
  private lines(): Impact['lines'] {
    const found: Impact['lines'] = [];
    for (const [id, ref] of this.ofLine) {
      const location = this.fresh.model.locations.get(id);
      if (!location || location.ownLines || this.gone.has(ref.id) || this.come.has(ref.id)) continue;
      const [was, is] = [figuresOf(this.old, ref), figuresOf(this.fresh, ref)];
      if (!was || !is) continue;
      const [before, after] = [was.way.busyShare.down, is.way.busyShare.down];
      if (Math.abs(after - before) > 0.005)
        found.push({ location: id, name: location.name, before, after, rateMbps: is.way.down?.value ?? null });
    }
    return found.sort((a, b) => b.after - a.after || (a.location < b.location ? -1 : 1)).slice(0, mostLines);
  }

  private see(person: string, from: Verdict | undefined, to: Verdict | undefined): void {
    const known = this.people.get(person) ?? { from: 'clear' as Verdict, to: 'clear' as Verdict };
    this.people.set(person, { from: worstVerdict(known.from, from ?? 'clear'), to: worstVerdict(known.to, to ?? 'clear') });
  }

  result(): Impact {
    // the other crossings stay as they are, but they count for where a person stands
    if (!this.everything)
      for (const ref of this.old.model.crossings) {
        if (this.touched.has(ref.id)) continue;
        const verdict = this.known(ref)?.verdict ?? figuresOf(this.old, ref)?.verdict;
        this.see(ref.person, verdict, verdict);
      }
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
    const { looked, seconds, ...counted } = this.besides;
    return {
      ...{ before, after, ...this.counts, moves: [...moves.values()] },
      losers: worstOf(this.losers).map((each) => this.told(each, lossOf)),
      winners: worstOf(this.winners)
        .slice(0, mostWinners)
        .map((each) => this.told(each, gainOf)),
      lines: this.lines(),
      beside: this.crossings.length <= mostBeside ? { ...counted, secondsMean: looked > 0 ? seconds / looked : 0 } : null,
    };
  }

  private told({ ref, from, to }: Moved, words: typeof lossOf): Impact['losers'][number] {
    const [before, after] = [figuresOf(this.old, ref), figuresOf(this.fresh, ref)];
    const person = this.fresh.model.people.get(ref.person)?.name ?? ref.person;
    const place = this.fresh.model.locations.get(ref.location)?.name ?? ref.location;
    return { crossing: ref.id, person, place, from, to, text: before && after ? words(before, after) : '' };
  }
}

/** A crossing that moves, and by how much of what is wanted. */
interface Moved {
  ref: CrossingRef;
  from: Verdict;
  to: Verdict;
  by: number;
}

/** Where a crossing stands: its verdict, and how far it is from what is wanted. */
export type Stand = Pick<Summary, 'verdict' | 'burden'>;
/** Where a crossing stands by its figures; null where there are none. */
export const standOf = (figures: CrossingFigures | null): Stand | null =>
  figures && { verdict: figures.verdict, burden: burdenOnce(figures) };
const worstOf = <T extends { by: number }>(losers: readonly T[]): T[] => [...losers].sort((a, b) => b.by - a.by).slice(0, mostLosers);

/** The figures of a crossing; null where it is none any more. */
export const figuresOf = (reader: FactsReader, ref: CrossingRef, alike?: Alike<CrossingFigures>): CrossingFigures | null => {
  const facts = reader.read(ref);
  return facts && (alike ? alike.of(facts) : computeFigures(facts));
};

/** Whether a figure is less by more than that, and is written as less too. */
const isLess = (a: number, b: number, by: number): boolean => a < b - by && Math.round(a) < Math.round(b);

/** What somebody loses, in a few words: the first of what they would notice. */
export function lossOf(before: CrossingFigures, after: CrossingFigures): string {
  if (after.verdict === 'blocked' && before.verdict !== 'blocked') return 'does not open any more';
  if (isLess(after.frames.value, before.frames.value, 0.5))
    return `${plural(Math.round(after.frames.value), 'frame')} instead of ${Math.round(before.frames.value)}`;
  if (after.delay.value > before.delay.value + 1) return `${Math.round(after.delay.value)} ms instead of ${Math.round(before.delay.value)}`;
  if (isLess(before.timeline.totalS, after.timeline.totalS, 0.5))
    return `usable after ${Math.round(after.timeline.totalS)} s instead of ${Math.round(before.timeline.totalS)}`;
  if (after.session.resolutionShare < before.session.resolutionShare) return 'text is less sharp';
  return 'asks more of the line';
}

/** What somebody gains, in a few words: the first of what they would notice. */
export function gainOf(before: CrossingFigures, after: CrossingFigures): string {
  if (before.verdict === 'blocked' && after.verdict !== 'blocked') return 'opens';
  const works = ({ desk }: CrossingFigures) => desk.filter((item) => item.works === true).length;
  if (works(after) > works(before))
    return `${plural(works(after) - works(before), 'device')} more that ${works(after) - works(before) === 1 ? 'works' : 'work'}`;
  if (isLess(before.frames.value, after.frames.value, 0.5))
    return `${plural(Math.round(after.frames.value), 'frame')} instead of ${Math.round(before.frames.value)}`;
  if (after.delay.value < before.delay.value - 1) return `${Math.round(after.delay.value)} ms instead of ${Math.round(before.delay.value)}`;
  if (isLess(after.timeline.totalS, before.timeline.totalS, 0.5))
    return `usable after ${Math.round(after.timeline.totalS)} s instead of ${Math.round(before.timeline.totalS)}`;
  return 'closer to what is wanted';
}
