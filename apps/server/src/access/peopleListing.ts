import { Injectable } from '@nestjs/common';
import type { AccessPeople, AccessPeopleQuery, AccessPersonRow, Person } from '@underpass/contracts';
import type { EstateModel } from '@underpass/core';
import { EstateStore } from '../estate/estate.store.js';
import { orderSteps, sortKey } from '../jobs/order.js';
import { eachInSlices, inSlices, KeptAnswers } from '../jobs/slices.js';
import { named } from './naming.js';

type Filter = Pick<AccessPeopleQuery, 'search' | 'group' | 'show' | 'sort'>;

/** What is worth knowing of a person, the most urgent first. */
const troubles = ['hidden', 'nothing', 'changes', 'must choose', 'guests'] as const;
type Trouble = (typeof troubles)[number];

/** A person with what there is to know of them, the weightiest first. */
interface Noted {
  person: Person;
  text: string;
  shown: Trouble[];
}

/** People as lists show them: those to know of first, or in any order. */
@Injectable()
export class PeopleListing {
  private readonly noted = new KeptAnswers<Noted[]>();

  constructor(private readonly store: EstateStore) {}

  private get model() {
    return this.store.model;
  }

  async page(query: AccessPeopleQuery): Promise<AccessPeople> {
    const { found, counts } = await this.find(query);
    const rows = found.slice(query.offset, query.offset + query.limit).map((person) => this.row(person));
    return { total: found.length, counts, rows };
  }

  /** Everybody who fits, in their order. */
  async all(query: Filter): Promise<AccessPersonRow[]> {
    const rows: AccessPersonRow[] = [];
    await eachInSlices((await this.find(query)).found, (person) => rows.push(this.row(person)));
    return rows;
  }

  private async find(query: Filter): Promise<{ found: Person[]; counts: AccessPeople['counts'] }> {
    const { model } = this;
    const wanted = query.search?.toLowerCase();
    const found: { person: Person; weight: number }[] = [];
    const counts: AccessPeople['counts'] = { hidden: 0, nothing: 0, changes: 0, 'must choose': 0, guests: 0 };
    await eachInSlices(await this.noted.get(model, 'people', () => this.noting(model)), ({ person, text, shown }) => {
      if (wanted && !text.includes(wanted)) return;
      if (query.group && !model.access.of(person.groups).groups.includes(query.group)) return;
      for (const show of shown) counts[show]++;
      if (query.show === 'all') found.push({ person, weight: shown[0] ? troubles.length - troubles.indexOf(shown[0]) : 0 });
      else if (shown.includes(query.show)) found.push({ person, weight: 0 });
    });
    // those to know of first, the others in the order of the estate
    found.sort((a, b) => b.weight - a.weight);
    const ordered = query.sort ? await this.sorted(found, query.sort) : found;
    return { found: ordered.map(({ person }) => person), counts };
  }

  private async sorted<T extends { person: Person }>(list: readonly T[], sort: NonNullable<AccessPeopleQuery['sort']>): Promise<T[]> {
    const [column, way] = sort.startsWith('-') ? [sort.slice(1), -1 as const] : [sort, 1 as const];
    const { model } = this;
    const value = (person: Person): unknown => {
      if (column === 'location') return model.locations.get(person.location)?.name ?? person.location;
      if (column === 'groups') return person.groups.map((id) => model.groups.get(id)?.name ?? id);
      if (column === 'after') return model.access.of(person.groups).seen.length;
      if (column === 'now') return model.access.of(model.signedIn.get(person.id)?.groups ?? person.groups).seen.length;
      return column === 'kind' ? person.kind : person.name;
    };
    return inSlices(
      orderSteps(
        list,
        ({ person }) => sortKey(value(person)),
        ({ person }) => person.id,
        way,
      ),
    );
  }

  /** Everybody with what there is to know of them; worked out once while the estate stands. */
  private async noting(model: EstateModel): Promise<Noted[]> {
    const noted: Noted[] = [];
    await eachInSlices(model.estate.person, (person) => {
      noted.push({
        person,
        text: `${person.name} ${person.id}`.toLowerCase(),
        shown: troubles.filter((show) => this.shows(model, person, show)),
      });
    });
    return noted;
  }

  private shows(model: EstateModel, person: Person, show: Trouble): boolean {
    if (show === 'guests') return person.kind === 'guest';
    const reach = model.access.of(person.groups);
    if (show === 'nothing') return reach.seen.length === 0;
    if (show === 'hidden') return reach.held.length > reach.seen.length;
    if (show === 'must choose') return this.desktops(model, reach.seen).length > 1;
    return this.changes(model, person);
  }

  private desktops = (model: EstateModel, seen: readonly { resource: string }[]) =>
    seen.map(({ resource }) => resource).filter((id) => model.resources.get(id)?.kind === 'desktop');

  private changes(model: EstateModel, person: Person): boolean {
    const signedIn = model.signedIn.get(person.id);
    if (!signedIn) return false;
    const list = (groups: readonly string[]) =>
      model.access
        .of(groups)
        .seen.map(({ resource }) => resource)
        .sort()
        .join();
    return list(signedIn.groups) !== list(person.groups);
  }

  private row(person: Person): AccessPersonRow {
    const { model } = this;
    const after = model.access.of(person.groups);
    const signedIn = model.signedIn.get(person.id);
    const desktops = this.desktops(model, after.seen);
    return {
      id: person.id,
      name: person.name,
      kind: person.kind,
      locationName: model.locations.get(person.location)?.name ?? person.location,
      groups: person.groups.map((id) => named(model, 'group', id)),
      now: signedIn ? model.access.of(signedIn.groups).seen.length : after.seen.length,
      after: after.seen.length,
      changes: this.changes(model, person),
      hidden: after.held.length - after.seen.length,
      desktops: desktops.length > 1 ? desktops.map((id) => named(model, 'resource', id).name) : [],
    };
  }
}
