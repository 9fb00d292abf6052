import type { Person } from '@underpass/contracts';
import { settingsOf, type CrossingFacts } from '../crossing/index.js';
import { carryCells, type CarryCell } from '../redirection/index.js';
import type { SettingKey } from '../settings/index.js';

/** One thing one way for one sort of people: for how many crossings it goes, for how many not, and by which setting. */
export interface CarriedCell extends Omit<CarryCell, 'carried' | 'by'> {
  goes: number;
  stays: number;
  /** The setting that decides for most of those that are fewer than all, else for all. */
  by: SettingKey;
}
/** A sort of people on one sort of device. */
export interface CarriedColumn {
  kind: Person['kind'];
  ownership: 'managed' | 'personal';
  crossings: number;
  cells: CarriedCell[];
}

interface Counted {
  cell: CarryCell;
  goes: number;
  stays: number;
  by: Map<SettingKey, number>;
}

/** Counts what people can and cannot carry in and out, by kind of person and whose device it is. */
export class CarriedTally {
  private readonly columns = new Map<
    string,
    { kind: Person['kind']; ownership: 'managed' | 'personal'; crossings: number; cells: Counted[] }
  >();

  add(facts: CrossingFacts): void {
    const { person, endpoint, subject } = facts;
    const key = `${person.kind}|${endpoint.ownership}`;
    const { clientKind, platform, ownership } = endpoint;
    const cells = carryCells(settingsOf(facts), { clientKind, platform, ownership, guest: subject.guest });
    let column = this.columns.get(key);
    if (!column)
      this.columns.set(
        key,
        (column = { kind: person.kind, ownership, crossings: 0, cells: cells.map((cell) => ({ cell, goes: 0, stays: 0, by: new Map() })) }),
      );
    column.crossings++;
    cells.forEach((cell, i) => {
      const counted = column.cells[i] as Counted;
      if (cell.carried) counted.goes++;
      else counted.stays++;
      // what keeps it is of more interest than what would let it
      const weight = cell.carried ? 1 : 1000;
      counted.by.set(cell.by, (counted.by.get(cell.by) ?? 0) + weight);
    });
  }

  result(): CarriedColumn[] {
    const kinds: Person['kind'][] = ['staff', 'seasonal', 'guest'];
    return [...this.columns.values()]
      .map(({ cells, ...column }) => ({
        ...column,
        cells: cells.map(({ cell: { what, way, isData, by: first }, goes, stays, by }) => ({
          ...{ what, way, isData, goes, stays },
          by: [...by].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? first,
        })),
      }))
      .sort((a, b) => kinds.indexOf(a.kind) - kinds.indexOf(b.kind) || (a.ownership < b.ownership ? -1 : 1));
  }
}
