import { crossingsTouched, isTouched, touchesNothing, touchOf, untouched, type Touch } from '../change/index.js';
import type { CrossingRef, EstateModel } from '../estate/index.js';
import { atOnce } from '../indexes/index.js';
import { noTally, type LineTally } from './shared.js';

const none: readonly never[] = [];

/** What everybody's crossings ask of each line, summed where it is asked for, and gone on from what was summed under a change. */
export class Tallies {
  private readonly byLocation = new Map<string, LineTally>();
  private demand: Touch | null = null;
  private lines: { gone: (location: string) => readonly CrossingRef[]; come: (location: string) => readonly CrossingRef[] } | null = null;

  /**
   * @param under those of the model that this one lies over
   * @param count adds (1) or takes away (−1) what one crossing of this model asks
   */
  constructor(
    private readonly model: EstateModel,
    private readonly under: Tallies | null,
    private readonly count: (tally: LineTally, ref: CrossingRef, sign: 1 | -1) => LineTally,
  ) {}

  /** Those of a model that stands by itself, with every sum that is known here. */
  settledOn(model: EstateModel, count: Tallies['count']): Tallies {
    const tallies = new Tallies(model, null, count);
    for (const location of this.known()) if (model.locations.has(location)) tallies.byLocation.set(location, this.at(location));
    return tallies;
  }

  /** Locations whose demand was summed, here or under this one, and is not summed wholly anew. */
  private known(): Set<string> {
    const known = new Set(this.byLocation.keys());
    const touch = this.touch();
    if (this.under && !touch.everything) for (const location of this.under.known()) if (!touch.locations.has(location)) known.add(location);
    return known;
  }

  /** Crossings whose demand may be another one than under this one. */
  private touch(): Touch {
    const { laid } = this.model;
    return (this.demand ??= laid ? touchOf(laid, this.model, 'demand') : { ...untouched(), everything: true });
  }

  /** The sum at a location. */
  at(location: string): LineTally {
    let known = this.byLocation.get(location);
    if (!known) this.byLocation.set(location, (known = this.tally(location)));
    return known;
  }

  private tally(location: string): LineTally {
    const touch = this.touch();
    if (this.under && touchesNothing(touch)) return this.under.at(location);
    if (this.under && !touch.everything && !touch.locations.has(location)) return this.tallyGoneOn(location, this.under, touch);
    return atOnce(this.summed(location));
  }

  /** The sum counted anew, standing back in between. */
  private *summed(location: string): Generator<void, LineTally> {
    const people = new Set<string>();
    let tally = noTally;
    for (const [i, ref] of this.model.crossingsAt(location).entries()) {
      if (i % 32 === 0) yield;
      tally = this.count(tally, ref, 1);
      people.add(ref.person);
    }
    return { ...tally, people: people.size };
  }

  /** Sums what everybody asks of each line, standing back in between: for whoever reads all crossings and holds nobody up. */
  *summing(): Generator<void, void> {
    for (const location of this.model.locations.keys()) {
      if (!this.byLocation.has(location) && !this.under) this.byLocation.set(location, yield* this.summed(location));
    }
  }

  /** The sum under this one, less what the touched crossings asked, plus what they ask now. */
  private tallyGoneOn(location: string, under: Tallies, touch: Touch): LineTally {
    this.lines ??= { gone: touchedAt(touch, under.model), come: touchedAt(touch, this.model) };
    const [gone, come] = [this.lines.gone(location), this.lines.come(location)];
    let tally = under.at(location);
    if (gone.length + come.length === 0) return tally;
    for (const ref of gone) tally = under.count(tally, ref, -1);
    for (const ref of come) tally = this.count(tally, ref, 1);
    const isThere = ({ model }: Tallies, person: string) => model.crossingsOf(person).some((ref) => ref.location === location);
    let count = tally.people;
    for (const person of new Set([...gone, ...come].map((ref) => ref.person)))
      count += Number(isThere(this, person)) - Number(isThere(under, person));
    return { ...tally, people: count };
  }
}

/** The touched crossings of each location: looked up once and parted, or, where resources are touched, looked through place by place. */
function touchedAt(touch: Touch, model: EstateModel): (location: string) => readonly CrossingRef[] {
  if (touch.resources.size > 0) return (location) => model.crossingsAt(location).filter((ref) => isTouched(touch, ref));
  const lines = new Map<string, CrossingRef[]>();
  for (const ref of crossingsTouched(touch, model)) {
    const list = lines.get(ref.location);
    if (list) list.push(ref);
    else lines.set(ref.location, [ref]);
  }
  return (location) => lines.get(location) ?? none;
}
