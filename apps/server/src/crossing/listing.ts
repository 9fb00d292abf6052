import { Injectable } from '@nestjs/common';
import type { CrossingGroupQuery, CrossingGroups, CrossingPage, CrossingQuery, CrossingRow, Verdict } from '@underpass/contracts';
import { type FactsReader, noCounts, type CrossingRef, type Summary } from '@underpass/core';
import { orderSteps, sortKey, type SortKey } from '../jobs/order.js';
import { eachInSlices, inSlices, KeptAnswers } from '../jobs/slices.js';
import { verdictRanks } from './moved.js';
import { tenth, type Result } from './orderedResults.js';
import { ResultsService } from './results.service.js';

type Filter = Omit<CrossingGroupQuery, 'by'>;
type Sorting = CrossingQuery['sort'];
/** Groups told at most; there are as many as findings, places or resources. */
const mostGroups = 500;

/** Crossings as lists show them: filtered, sought through, in any order, or in groups. */
@Injectable()
export class CrossingListing {
  private readonly orders = new KeptAnswers<readonly Result[]>();

  constructor(private readonly results: ResultsService) {}

  async page(query: CrossingQuery): Promise<CrossingPage> {
    const counts = noCounts();
    const rows: CrossingRow[] = [];
    let total = 0;
    await this.each(query, query.sort, (result, isShown) => {
      counts[result.summary.verdict]++;
      if (!isShown) return;
      if (total >= query.offset && rows.length < query.limit) rows.push(this.rowOf(result));
      total++;
    });
    return { total, counts, rows };
  }

  /** Every row that fits, in its order. */
  async all(filter: Filter, sort: Sorting): Promise<CrossingRow[]> {
    const rows: CrossingRow[] = [];
    await this.each(filter, sort, (result, isShown) => isShown && rows.push(this.rowOf(result)));
    return rows;
  }

  /** The same by finding, place or resource, those who are kept from most first. */
  async groups({ by, ...filter }: CrossingGroupQuery): Promise<CrossingGroups> {
    const { model } = this.results.reader;
    const groups = new Map<string, { people: Set<string>; kept: Set<string>; crossings: number; counts: Record<Verdict, number> }>();
    await this.each(filter, undefined, ({ ref, summary }, isShown) => {
      if (!isShown) return;
      const keys = by === 'finding' ? new Set(summary.kinds) : [ref[by]];
      for (const key of keys) {
        let group = groups.get(key);
        if (!group) groups.set(key, (group = { people: new Set(), kept: new Set(), crossings: 0, counts: noCounts() }));
        group.people.add(ref.person);
        if (summary.verdict !== 'clear') group.kept.add(ref.person);
        group.crossings++;
        group.counts[summary.verdict]++;
      }
    });
    const names = by === 'location' ? model.locations : by === 'resource' ? model.resources : null;
    const told = [...groups].map(([key, { people, kept, crossings, counts }]) => ({
      key,
      name: names?.get(key)?.name ?? key,
      people: people.size,
      notClear: kept.size,
      crossings,
      counts,
    }));
    told.sort((a, b) => b.notClear - a.notClear || b.people - a.people || (a.name < b.name ? -1 : 1));
    return { total: told.length, groups: told.slice(0, mostGroups) };
  }

  /** Goes through what fits the filter but for the verdict; `isShown` says whether that fits too. */
  private async each(filter: Filter, sort: Sorting, work: (result: Result, isShown: boolean) => void): Promise<void> {
    const wanted = filter.search ? filter.search.toLowerCase().split(/\s+/) : null;
    await eachInSlices(await this.ordered(sort), (result) => {
      const { ref, summary } = result;
      if (!this.passes(ref, summary, filter)) return;
      if (wanted && !wanted.every((word) => this.results.textOf(result).includes(word))) return;
      work(result, !filter.verdict || summary.verdict === filter.verdict);
    });
  }

  private ordered(sort: Sorting): readonly Result[] | Promise<readonly Result[]> {
    if (!sort || sort === 'verdict') return this.results.sorted();
    const { reader } = this.results;
    return this.orders.get(reader, sort, async () => {
      const [column, way] = sort.startsWith('-') ? [sort.slice(1), -1 as const] : [sort, 1 as const];
      return inSlices(orderSteps(this.results.sorted(), keysOf(reader, column), ({ ref }) => ref.id, way));
    });
  }

  private passes(ref: CrossingRef, summary: Summary, filter: Filter): boolean {
    const { model } = this.results.reader;
    if (filter.location && ref.location !== filter.location) return false;
    if (filter.resource && ref.resource !== filter.resource) return false;
    if (filter.person && ref.person !== filter.person) return false;
    if (filter.bay && summary.bay !== filter.bay) return false;
    if (filter.kind && !summary.kinds.includes(filter.kind)) return false;
    if (!filter.area) return true;
    const location = model.locations.get(ref.location);
    return (location?.area ?? location?.name) === filter.area;
  }

  private rowOf({ ref, summary }: Result): CrossingRow {
    const { model } = this.results.reader;
    return {
      id: ref.id,
      person: ref.person,
      personName: model.people.get(ref.person)?.name ?? ref.person,
      endpoint: ref.endpoint,
      location: ref.location,
      locationName: model.locations.get(ref.location)?.name ?? ref.location,
      resource: ref.resource,
      resourceName: model.resources.get(ref.resource)?.name ?? ref.resource,
      verdict: summary.verdict,
      bay: summary.bay,
      delayMs: tenth(summary.delayMs),
      frameRate: tenth(summary.frameRate),
      timeToUsableS: tenth(summary.timeToUsableS),
      kinds: summary.kinds,
    };
  }
}

/** What the list is sorted by in a column. */
function keysOf({ model }: FactsReader, column: string): (result: Result) => SortKey {
  switch (column) {
    case 'person':
      return ({ ref }) => sortKey(model.people.get(ref.person)?.name ?? ref.person);
    case 'endpoint':
      return ({ ref }) => sortKey(ref.endpoint);
    case 'location':
      return ({ ref }) => sortKey(model.locations.get(ref.location)?.name ?? ref.location);
    case 'resource':
      return ({ ref }) => sortKey(model.resources.get(ref.resource)?.name ?? ref.resource);
    case 'finding':
      return ({ summary }) => sortKey(summary.kinds[0]);
    case 'delayMs':
    case 'frameRate':
    case 'timeToUsableS':
      return ({ summary }) => tenth(summary[column]);
    default:
      return ({ summary }) => verdictRanks[summary.verdict];
  }
}
