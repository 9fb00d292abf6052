import { atOnce, type Counted, type Summary } from '@underpass/core';
import { sortSteps } from '../jobs/order.js';

/** A crossing with what it comes to, in the row of its area. */
export interface Result extends Counted {
  /** May become others while its place stays. */
  summary: Summary;
  area: string;
  readonly place: Place;
  /** What a search looks through; made when first asked for. */
  text: string | null;
  /** Another one has come for it, or it is no more. */
  isGone: boolean;
}

/** Crossings of one verdict and a delay that is told alike, by id. */
interface Place {
  readonly order: number;
  list: readonly Result[];
  /** Put here since the list was made. */
  come: Result[];
}

/** From so many changes on, putting them in their place is work of its own. */
const many = 10_000;
/** So many are gone through between two steps. */
const stride = 8192;

const rank = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
/** More than any delay, ms: a verdict comes before every delay. */
const beyond = 1e7;
/** A figure as it is told. */
export const tenth = (value: number): number => Math.round(value * 10) / 10;
/** By the delay as it is told: what only grows older comes out otherwise behind the point, and stays where it is. */
const orderOf = ({ verdict, delayMs }: Summary): number => rank[verdict] * beyond - tenth(Math.min(delayMs, beyond - 1));
const firstById = (a: Result, b: Result): number => (a.ref.id < b.ref.id ? -1 : 1);

/**
 * Results by the id of their crossing, and in the order of the list, worst first. What changed is put in its place when the list is next
 * asked for. There are far fewer places than crossings: those that are alike come out the same.
 */
export class OrderedResults {
  private sorted: readonly Result[] = [];
  private readonly places = new Map<number, Place>();
  /** Places where something came or went since their list was made. */
  private changed = new Set<Place>();
  private fresh = 0;
  private isAtWork = false;
  readonly byId = new Map<string, Result>();

  /** @param before what stands for the same crossing, where that is known already */
  put({ ref, area, summary }: Counted, before = this.byId.get(ref.id)): void {
    const order = orderOf(summary);
    if (before?.place.order === order && before.ref === ref) {
      // most stay where they are
      before.summary = summary;
      before.area = area;
      return;
    }
    if (before) this.leave(before);
    const place = this.placeOf(order);
    const result = { ref, area, summary, place, text: null, isGone: false };
    this.byId.set(ref.id, result);
    place.come.push(result);
    this.changed.add(place);
    this.fresh++;
  }
  drop(id: string): void {
    const before = this.byId.get(id);
    if (!before) return;
    this.leave(before);
    this.byId.delete(id);
  }
  private leave(before: Result): void {
    before.isGone = true;
    this.changed.add(before.place);
  }
  private placeOf(order: number): Place {
    let place = this.places.get(order);
    if (!place) this.places.set(order, (place = { order, list: [], come: [] }));
    return place;
  }
  /** Names changed, so that what was made to search through is no more. */
  forgetTexts(): void {
    for (const result of this.byId.values()) result.text = null;
  }

  /** Whether so much changed that putting it in its place would hold up whoever asks for the list next. */
  get isLong(): boolean {
    return this.fresh > many;
  }

  /** Of many that changed the list of before is told until their work is done. */
  list(): readonly Result[] {
    if (!this.isLong && !this.isAtWork) atOnce(this.work());
    return this.sorted;
  }

  /** Puts what changed in its place, in steps, so that whoever waits can be served between them. */
  *work(): Generator<void, void> {
    if (this.changed.size === 0) return;
    // what comes between the steps waits for the next time, or it would be told twice: where it was and where it is
    const taken = [...this.changed].map((place) => ({ place, come: place.come }));
    for (const { place } of taken) place.come = [];
    this.changed = new Set();
    this.fresh = 0;
    this.isAtWork = true;
    try {
      for (const { place, come } of taken) {
        const stay = come.filter(({ isGone }) => !isGone);
        place.list = yield* placed(yield* sortSteps(stay, firstById), place.list);
        yield;
        if (place.list.length + place.come.length === 0 && this.places.get(place.order) === place) this.places.delete(place.order);
      }
      this.sorted = yield* inOrder([...this.places.values()]);
    } finally {
      this.isAtWork = false;
    }
  }
}

// both lists are made of their full length at once: one that grows is copied over and over

/** The lists of all places one after the other, in steps. */
function* inOrder(places: Place[]): Generator<void, Result[]> {
  places.sort((a, b) => a.order - b.order);
  const all = new Array<Result>(places.reduce((sum, { list }) => sum + list.length, 0));
  let count = 0;
  for (const { list } of places)
    for (const result of list) {
      all[count++] = result;
      if (count % stride === 0) yield;
    }
  return all;
}

/** A list with those that came put in their places, and without those that are gone, in steps. */
function* placed(come: readonly Result[], list: readonly Result[]): Generator<void, Result[]> {
  const all = new Array<Result>(list.length + come.length);
  let [count, next] = [0, 0];
  for (let i = 0; i < list.length; i++) {
    const result = list[i] as Result;
    if (i % stride === stride - 1) yield;
    if (result.isGone) continue;
    for (let first = come[next]; first && firstById(first, result) < 0; first = come[++next]) all[count++] = first;
    all[count++] = result;
  }
  for (; next < come.length; next++) all[count++] = come[next] as Result;
  all.length = count;
  return all;
}
