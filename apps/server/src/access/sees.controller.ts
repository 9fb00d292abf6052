import { Body, Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  AccessPeopleExportRequest,
  AccessPeopleQuery,
  JobStarted,
  Key,
  WhyQuery,
  AccessPeople,
  AccessPersonView,
  PublicationRow,
  ResourceReach,
  type SeenItem,
  WhyView,
} from '@underpass/contracts';
import { acceptancePlan, noChange, seesOf, whyNotSeen, type EstateModel, type PersonSees } from '@underpass/core';
import { EstateStore } from '../estate/estate.store.js';
import { Exports } from '../jobs/exports.service.js';
import { KeptAnswers } from '../jobs/slices.js';
import { notFound } from '../problems/problem.js';
import { chainNodes, named, nodeOf } from './naming.js';
import type { Response } from 'express';
import { z } from 'zod';
import { Answers, AnswersFile } from '../edge/answers.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../signin/session.guard.js';
import { PeopleListing } from './peopleListing.js';
import { SightingService } from './sighting.service.js';

/** Names told of a long list; the number is told beside them. */
const firstFew = 8;

/** Who sees what, and why not. */
@ApiTags('access')
@Controller('access')
export class SeesController {
  private readonly publishing = new KeptAnswers<PublicationRow[]>();

  constructor(
    private readonly store: EstateStore,
    private readonly sightings: SightingService,
    private readonly listing: PeopleListing,
    private readonly exports: Exports,
    private readonly log: SecurityLog,
  ) {}

  /** Who sees what is what was written, whether verdicts stand yet or not. */
  private get model() {
    return this.store.model;
  }

  @Get('people')
  @Answers(AccessPeople)
  people(@Query({ schema: AccessPeopleQuery }) query: AccessPeopleQuery): Promise<AccessPeople> {
    return this.listing.page(query);
  }

  /** Asks for the same as a table, as it is filtered and sorted. Follow the job, then fetch the file. */
  @Post('people-exports')
  @Answers(JobStarted, 202)
  @HttpCode(202)
  @Needs('engineer')
  @Confirmed()
  async export(
    @Body({ schema: AccessPeopleExportRequest.prefault({}) }) body: AccessPeopleExportRequest,
    @Req() request: SignedRequest,
  ): Promise<JobStarted> {
    const job = await this.exports.start('people export', 'Export of who sees what', request.user.name, body);
    await this.log.recordOf('exported', request, 'the list of who sees what');
    return { job };
  }

  /** The file of an export that is done, for an hour. */
  @Get('people-exports/:id')
  @AnswersFile('text/csv')
  @Needs('engineer')
  @Confirmed()
  exported(@Param('id', { schema: z.uuid() }) id: string, @Res() response: Response): Promise<void> {
    return this.exports.send('people export', id, response);
  }

  @Get('people/:id')
  @Answers(AccessPersonView)
  async person(@Param('id', { schema: Key }) id: string): Promise<AccessPersonView> {
    const { model } = this;
    const person = model.people.get(id);
    const sees = seesOf(model, id);
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
      zone: model.locations.get(person.location)?.timeZone ?? 'UTC',
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
    const { model } = this;
    return this.publishing.get(model, 'publications', () => Promise.resolve(this.publicationsOf(model)));
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
