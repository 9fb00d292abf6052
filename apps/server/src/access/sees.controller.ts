import { Controller, Get, Param, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  AccessPeopleQuery,
  Key,
  WhyQuery,
  AccessPeople,
  type AccessPersonRow,
  AccessPersonView,
  type Person,
  PublicationRow,
  ResourceReach,
  type SeenItem,
  WhyView,
} from '@underpass/contracts';
import { acceptancePlan, noChange, seesOf, whyNotSeen, type EstateModel, type PersonSees } from '@underpass/core';
import { ResultsService } from '../crossing/results.service.js';
import { byKey, sortKey, sortSteps } from '../jobs/order.js';
import { eachInSlices, inSlices, KeptAnswers } from '../jobs/slices.js';
import { notFound } from '../problems/problem.js';
import { chainNodes, named, nodeOf } from './naming.js';
import { SightingService } from './sighting.service.js';
import { Answers } from '../edge/answers.js';

/** Names told of a long list; the number is told beside them. */
const firstFew = 8;

/** What is worth knowing of a person, the most urgent first. */
const troubles = ['hidden', 'nothing', 'changes', 'must choose', 'guests'] as const;
type Trouble = (typeof troubles)[number];

/** A person with what there is to know of them, the weightiest first. */
interface Noted {
  person: Person;
  text: string;
  shown: Trouble[];
}

/** Who sees what, and why not. */
@ApiTags('access')
@Controller('access')
export class SeesController {
  private readonly noted = new KeptAnswers<Noted[]>();
  private readonly publishing = new KeptAnswers<PublicationRow[]>();

  constructor(
    private readonly results: ResultsService,
    private readonly sightings: SightingService,
  ) {}

  private get model() {
    return this.results.reader.model;
  }

  @Get('people')
  @Answers(AccessPeople)
  async people(@Query({ schema: AccessPeopleQuery }) query: AccessPeopleQuery): Promise<AccessPeople> {
    const { reader } = this.results;
    const wanted = query.search?.toLowerCase();
    const found: { person: Person; weight: number }[] = [];
    const counts: AccessPeople['counts'] = { hidden: 0, nothing: 0, changes: 0, 'must choose': 0, guests: 0 };
    await eachInSlices(await this.noted.get(reader, 'people', () => this.noting(reader.model)), ({ person, text, shown }) => {
      if (wanted && !text.includes(wanted)) return;
      if (query.group && !reader.model.access.of(person.groups).groups.includes(query.group)) return;
      for (const show of shown) counts[show]++;
      if (query.show === 'all') found.push({ person, weight: shown[0] ? troubles.length - troubles.indexOf(shown[0]) : 0 });
      else if (shown.includes(query.show)) found.push({ person, weight: 0 });
    });
    // those to know of first, the others in the order of the estate
    found.sort((a, b) => b.weight - a.weight);
    const ordered = query.sort ? await this.sorted(found, query.sort) : found;
    const rows = ordered.slice(query.offset, query.offset + query.limit).map(({ person }) => this.row(person));
    return { total: found.length, counts, rows };
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
    const keyed = list.map((each) => ({ each, id: each.person.id, key: sortKey(value(each.person)) }));
    return (await inSlices(sortSteps(keyed, byKey(way)))).map(({ each }) => each);
  }

  /** Everybody with what there is to know of them; worked out once while the results stand. */
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

  @Get('people/:id')
  @Answers(AccessPersonView)
  async person(@Param('id', { schema: Key }) id: string): Promise<AccessPersonView> {
    const { model } = this;
    const person = model.people.get(id);
    const sees = seesOf(this.results.reader, id);
    if (!person || !sees) throw notFound('person', id);
    const signedIn = model.signedIn.get(id);
    const item = (list: PersonSees['now'], groups: readonly string[]): SeenItem[] =>
      list.flatMap(({ resource }) => {
        const reached = model.access.of(groups).seen.find((each) => each.resource === resource);
        const found = model.resources.get(resource);
        return reached && found ? [{ id: resource, name: found.name, kind: found.kind, chain: chainNodes(model, reached, id) }] : [];
      });
    const seen = new Set(sees.afterNextSignIn.map(({ resource }) => resource));
    const hidden = new Map(sees.hidden.map(({ resource, publication }) => [resource, publication]));
    return {
      person,
      locationName: named(model, 'location', person.location).name,
      groups: person.groups.map((group) => named(model, 'group', group)),
      now: item(sees.now, signedIn?.groups ?? person.groups),
      after: item(sees.afterNextSignIn, person.groups),
      signedInAt: sees.signedInAt,
      startsAtOnce: sees.startsAtOnce,
      mustChoose: sees.mustChoose,
      desktops: sees.desktops,
      notSeen: model.estate.resource
        .filter((resource) => !seen.has(resource.id))
        .map(({ id: resource, name, kind }) => {
          const publication = hidden.get(resource);
          return { id: resource, name, kind, hiddenIn: publication === undefined ? null : named(model, 'publication', publication).name };
        })
        .sort((a, b) => Number(b.hiddenIn !== null) - Number(a.hiddenIn !== null) || a.name.localeCompare(b.name)),
      crossings: model.crossingsOf(id).map(({ id: crossing, resource, endpoint }) => ({ id: crossing, resource, endpoint })),
      sightings: await this.sightings.of(id, [...seen]),
    };
  }

  /** Why a person does not see a resource, with the smallest mend. */
  @Get('why')
  @Answers(WhyView)
  why(@Query({ schema: WhyQuery }) { person, resource }: WhyQuery): WhyView {
    const { model } = this;
    if (!model.people.has(person)) throw notFound('person', person);
    if (!model.resources.has(resource)) throw notFound('resource', resource);
    const link = whyNotSeen(model, person, resource);
    if (!link) {
      const reached = model.access.ofPerson(person).seen.find((each) => each.resource === resource);
      return {
        seen: link === null,
        step: null,
        object: null,
        remedy: null,
        change: noChange,
        chain: reached ? chainNodes(model, reached, person) : [],
        alsoOpensTo: [],
        alsoOpensCount: 0,
        alsoGives: [],
      };
    }
    return {
      seen: false,
      step: link.step,
      object: link.object,
      remedy: link.remedy,
      change: link.change,
      chain: link.chain.map((each) => each && nodeOf(model, each)),
      alsoOpensTo: link.alsoOpensTo.slice(0, firstFew).map((id) => named(model, 'person', id)),
      alsoOpensCount: link.alsoOpensTo.length,
      alsoGives: link.alsoGives.map((id) => named(model, 'resource', id)),
    };
  }

  /** Publications as chains: groups that hold them, portals they are attached to, resources in them. */
  @Get('publications')
  @Answers(PublicationRow.array())
  publications(): Promise<PublicationRow[]> {
    const { reader } = this.results;
    return this.publishing.get(reader, 'publications', () => Promise.resolve(this.publicationsOf(reader.model)));
  }

  private publicationsOf(model: EstateModel): PublicationRow[] {
    const because = new Map(acceptancePlan(model.access).unseen.map((each) => [each.publication, each.because]));
    const rank = (row: PublicationRow) => (row.state === 'seen' ? 1 : 0);
    return model.estate.publication
      .map((publication): PublicationRow => ({
        id: publication.id,
        name: publication.name,
        kind: publication.kind,
        poolName: model.pools.get(publication.pool)?.name ?? publication.pool,
        resources: publication.resources.map((id) => named(model, 'resource', id)),
        groups: model.estate.group
          .filter((group) => group.publications.includes(publication.id))
          .map(({ id, name }) => ({ id, name, people: model.access.peopleIn(id).size })),
        portals: publication.portals.map((id) => named(model, 'portal', id)),
        people: model.access.peopleWith(publication.id).size,
        state: because.get(publication.id) ?? 'seen',
      }))
      .sort((a, b) => rank(a) - rank(b) || b.people - a.people || a.name.localeCompare(b.name));
  }

  /** Who can reach a resource, and through what. */
  @Get('resources/:id')
  @Answers(ResourceReach)
  resource(@Param('id', { schema: Key }) id: string): ResourceReach {
    const { model } = this;
    const resource = model.resources.get(id);
    if (!resource) throw notFound('resource', id);
    const ways = new Map<string, ResourceReach['ways'][number]>();
    const people = model.access.peopleSeeing(id);
    for (const person of people) {
      const reached = model.access.ofPerson(person).seen.find((each) => each.resource === id);
      if (!reached) continue;
      const key = [...reached.groups, reached.publication, reached.portal].join('\n');
      const way = ways.get(key) ?? { chain: chainNodes(model, reached), people: 0, first: [] };
      ways.set(key, way);
      way.people++;
      if (way.first.length < firstFew) way.first.push(named(model, 'person', person));
    }
    return {
      id,
      name: resource.name,
      kind: resource.kind,
      people: people.size,
      ways: [...ways.values()].sort((a, b) => b.people - a.people),
    };
  }
}
