import type { Bay, Verdict } from '@underpass/contracts';
import { noCounts, type Counts, type Summary } from '../crossing/index.js';
import type { EstateModel } from '../estate/index.js';
import type { Counted } from './countedCrossing.js';
import { SettlingTally, type Settling } from './settle.js';
import { HourTally, type WorstHour } from './worstHour.js';

/** A row of the Board: an area and how its people stand by resource. */
export interface BoardRow {
  area: string;
  /** Its one place and the line there; null where the row is of several, or the place is not known. */
  place: { ownLines: boolean; downMbps: number | null } | null;
  /** People of the row, each at the worst of their crossings there. */
  people: Counts;
  cells: Record<string, Counts>;
  /** People by their worst crossing to any of the other resources. */
  rest: Counts | null;
  locations: string[];
  worstHour: WorstHour | null;
}
/** The whole estate at a glance. */
export interface Board {
  people: Counts;
  bays: Record<Bay, Counts>;
  /** Resources with a column of their own, those with most trouble first; the others are counted together. */
  resources: { id: string; name: string }[];
  others: number;
  rows: BoardRow[];
  /** What would tell most of what is not known. */
  settling: Settling | null;
  worstHour: WorstHour | null;
}

const notClear = (counts: Counts) => counts.blocked + counts.limited + counts.unknown;
const order = (counts: Counts) => counts.blocked * 3 + counts.limited * 2 + counts.unknown;
const bayNames: Bay[] = ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'];
/** A resource in trouble weighs as many as this many that are well, when columns are given out; common practice, no source. */
const troubleWeight = 6;

// how many crossings of each verdict a person has, in one number: up to 8191 of each
const unit: Record<Verdict, number> = { clear: 1, unknown: 2 ** 13, limited: 2 ** 26, blocked: 2 ** 39 };
const worstIn = (packed: number): Verdict =>
  packed >= unit.blocked ? 'blocked' : packed >= unit.limited ? 'limited' : packed >= unit.unknown ? 'unknown' : 'clear';

/** People, each counted once at the worst of the crossings that were added; what is added can be taken out again. */
class WorstOf {
  private readonly people = new Map<string, number>();
  readonly counts = noCounts();

  add(person: string, verdict: Verdict, times: 1 | -1): void {
    this.shift(person, times * unit[verdict]);
  }
  /** A crossing that was counted comes out otherwise. */
  move(person: string, from: Verdict, to: Verdict): void {
    this.shift(person, unit[to] - unit[from]);
  }
  private shift(person: string, by: number): void {
    const before = this.people.get(person) ?? 0;
    const after = before + by;
    if (before > 0) this.counts[worstIn(before)]--;
    if (after > 0) {
      this.counts[worstIn(after)]++;
      this.people.set(person, after);
    } else this.people.delete(person);
  }
  get size(): number {
    return this.people.size;
  }
  /** The people of several, each at the worst of all. */
  static together(several: readonly WorstOf[]): Counts {
    const all = new Map<string, number>();
    for (const { people } of several) for (const [person, packed] of people) all.set(person, (all.get(person) ?? 0) + packed);
    const counts = noCounts();
    for (const packed of all.values()) counts[worstIn(packed)]++;
    return counts;
  }
}

interface Row {
  people: WorstOf;
  cells: Map<string, WorstOf>;
  /** Crossings of each location of the row. */
  locations: Map<string, number>;
  /** The other resources counted together, while neither the row nor the columns are others. */
  rest: { columns: string; counts: Counts | null } | null;
  hours: HourTally;
}
/** Whether a crossing counts as before: most that come out otherwise do so by a figure. */
const countsAlike = (a: Summary, b: Summary): boolean =>
  a === b || (a.verdict === b.verdict && a.bay === b.bay && a.settles === b.settles && a.worstHour === b.worstHour);

const made = <K, V>(map: Map<K, V>, key: K, make: () => V): V => {
  let known = map.get(key);
  if (known === undefined) map.set(key, (known = make()));
  return known;
};

/** Locations × resources, people counted once at their worst crossing. A crossing that comes out otherwise changes its own counts alone. */
export class BoardTally {
  private readonly people = new WorstOf();
  private readonly bays = new Map<Bay, WorstOf>();
  private readonly rows = new Map<string, Row>();
  private readonly used = new Map<string, { clear: number; other: number }>();
  private readonly settling = new SettlingTally();
  private readonly hours = new HourTally();

  /** Counts a crossing as it comes out now in place of what was counted for it; null where there was nothing, or is nothing any more. */
  move(before: Counted | null, now: Counted | null): void {
    if (before && now && before.area === now.area && before.ref.location === now.ref.location) {
      if (!countsAlike(before.summary, now.summary)) this.alter(before, now);
      return;
    }
    if (before) this.count(before, -1);
    if (now) this.count(now, 1);
  }

  private count({ ref, area, summary }: Counted, times: 1 | -1): void {
    const { verdict, bay, settles, worstHour } = summary;
    const { person, location, resource } = ref;
    if (settles) this.settling.add(ref, settles, times);
    this.people.add(person, verdict, times);
    if (bay) made(this.bays, bay, () => new WorstOf()).add(person, verdict, times);
    const used = made(this.used, resource, () => ({ clear: 0, other: 0 }));
    used[verdict === 'clear' ? 'clear' : 'other'] += times;
    if (used.clear + used.other === 0) this.used.delete(resource);
    const row = made(this.rows, area, (): Row => ({
      people: new WorstOf(),
      cells: new Map(),
      locations: new Map(),
      rest: null,
      hours: new HourTally(),
    }));
    if (worstHour !== null) for (const hours of [this.hours, row.hours]) hours.add(worstHour, times);
    row.rest = null;
    row.people.add(person, verdict, times);
    const cell = made(row.cells, resource, () => new WorstOf());
    cell.add(person, verdict, times);
    if (cell.size === 0) row.cells.delete(resource);
    const there = (row.locations.get(location) ?? 0) + times;
    if (there > 0) row.locations.set(location, there);
    else row.locations.delete(location);
    if (row.locations.size === 0) this.rows.delete(area);
  }

  /** What differs of a crossing that stays in its row: a person is looked up once for what was and what is. */
  private alter({ area, ref: left, summary: before }: Counted, { ref, summary: now }: Counted): void {
    const { verdict: was } = before;
    const { verdict, bay, settles, worstHour } = now;
    const { person, resource } = ref;
    const row = this.rows.get(area) as Row;
    if (settles !== before.settles) {
      if (before.settles) this.settling.add(left, before.settles, -1);
      if (settles) this.settling.add(ref, settles, 1);
    }
    if (bay !== before.bay) {
      if (before.bay) this.bays.get(before.bay)?.add(person, was, -1);
      if (bay) made(this.bays, bay, () => new WorstOf()).add(person, verdict, 1);
    } else if (bay && verdict !== was) this.bays.get(bay)?.move(person, was, verdict);
    if (worstHour !== before.worstHour)
      for (const hours of [this.hours, row.hours]) {
        if (before.worstHour !== null) hours.add(before.worstHour, -1);
        if (worstHour !== null) hours.add(worstHour, 1);
      }
    if (verdict !== was) {
      const used = this.used.get(resource) as { clear: number; other: number };
      used[was === 'clear' ? 'clear' : 'other']--;
      used[verdict === 'clear' ? 'clear' : 'other']++;
      for (const people of [this.people, row.people, row.cells.get(resource)]) people?.move(person, was, verdict);
      row.rest = null;
    }
  }

  /** The board, worst first. @param columns how many resources have a column of their own */
  board(model: EstateModel, columns = 6): Board {
    const weight = ({ clear, other }: { clear: number; other: number }) => clear + troubleWeight * other;
    const ordered = [...this.used].sort(([x, a], [y, b]) => weight(b) - weight(a) || (x < y ? -1 : 1)).map(([id]) => id);
    const own = ordered.slice(0, columns);
    const key = own.join('\n');
    return {
      settling: this.settling.best(model),
      worstHour: this.hours.worst(),
      people: { ...this.people.counts },
      bays: Object.fromEntries(bayNames.map((bay) => [bay, { ...(this.bays.get(bay)?.counts ?? noCounts()) }])) as Record<Bay, Counts>,
      resources: own.map((id) => ({ id, name: model.resources.get(id)?.name ?? id })),
      others: ordered.length - own.length,
      rows: [...this.rows]
        .map(([area, row]): BoardRow => {
          const locations = [...row.locations.keys()].sort();
          return {
            area,
            place: placeOf(model, locations),
            people: { ...row.people.counts },
            cells: Object.fromEntries(own.flatMap((id) => (row.cells.has(id) ? [[id, { ...(row.cells.get(id) as WorstOf).counts }]] : []))),
            rest: restOf(row, new Set(own), key),
            locations,
            worstHour: row.hours.worst(),
          };
        })
        .sort(
          (a, b) =>
            (notClear(b.people) > 0 ? 1 : 0) - (notClear(a.people) > 0 ? 1 : 0) ||
            order(b.people) - order(a.people) ||
            a.area.localeCompare(b.area),
        ),
    };
  }
}

function restOf(row: Row, own: ReadonlySet<string>, columns: string): Counts | null {
  if (row.rest?.columns !== columns) {
    const others = [...row.cells].flatMap(([id, cell]) => (own.has(id) ? [] : [cell]));
    row.rest = { columns, counts: others.length ? WorstOf.together(others) : null };
  }
  return row.rest.counts && { ...row.rest.counts };
}

function placeOf(model: EstateModel, ids: readonly string[]): BoardRow['place'] {
  const only = ids.length === 1 ? model.locations.get(ids[0] as string) : undefined;
  return only ? { ownLines: only.ownLines, downMbps: only.downMbps ?? null } : null;
}

/** The row of the Board that a location is counted in. */
export const areaOf = (model: EstateModel, location: string): string => {
  const found = model.locations.get(location);
  return found?.area ?? found?.name ?? location;
};
