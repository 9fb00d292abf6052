import { Inject, Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { EntryLinkRequest, EntryLinkView, LinkTestRequest, LinkTestView } from '@underpass/contracts';
import {
  browserDataSource,
  browserFeatures,
  computeFigures,
  doing,
  entryPath,
  evaluateCrossing,
  fieldsTo,
  knownBrowsers,
  lostInBrowser,
  measuredBrowser,
  sentenceOf,
  settingTo,
  signonTimeline,
  withShortcut,
  type CrossingRef,
  type EstateModel,
} from '@underpass/core';
import { randomInt } from 'node:crypto';
import { DataSource, In } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { EntryLink } from '../database/entities.js';
import { EstateStore } from '../estate/estate.store.js';
import { ResultsService } from '../crossing/results.service.js';
import { PublicOrigin } from '../edge/publicOrigin.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { named } from './naming.js';

const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZabcdefghijkmnpqrstuvwxyz23456789';
/** Short, so that the code stays coarse; it opens nothing by itself, so it need not be unguessable. */
const newId = () => Array.from({ length: 10 }, () => letters[randomInt(letters.length)]).join('');
const mostAtOnce = 500;
const mostInAll = 20_000;

const crossingsOn = (model: EstateModel, id: string): CrossingRef[] => {
  const endpoint = model.endpoints.get(id);
  return endpoint ? model.crossingsOn(endpoint) : [];
};

/** Links that go straight to one resource. They name a publication and a resource and carry no secret. */
@Injectable()
export class EntryLinkService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly origin: PublicOrigin,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async make(request: EntryLinkRequest, by: string): Promise<EntryLinkView[]> {
    const { model } = this.store;
    const resource = model.resources.get(request.resource);
    if (!resource) throw notFound('resource', request.resource);
    if (!this.store.find(request.targetKind, request.target)) throw notFound(request.targetKind, request.target);
    const publication = model.estate.publication.find(({ resources, portals }) => resources.includes(resource.id) && portals.length > 0);
    if (!publication)
      throw new ProblemError(422, 'Leads nowhere', `No publication at a portal holds ${resource.name}. Attach one first.`, [
        { field: 'resource', problem: 'is in no publication that is attached to a portal' },
      ]);
    const targets =
      request.targetKind === 'location' && request.everyEndpoint
        ? this.endpointsAt(request.target, resource.id)
        : [{ kind: request.targetKind, id: request.target }];
    if (targets.length === 0)
      throw new ProblemError(
        422,
        'Nobody there',
        `Nobody at ${named(model, 'location', request.target).name} has ${resource.name} on an endpoint.`,
      );
    if (targets.length > mostAtOnce)
      throw new ProblemError(422, 'Too many', `That would be ${targets.length} links; at most ${mostAtOnce} are made at once.`);
    const kept = await this.data.getRepository(EntryLink).count();
    if (kept + targets.length > mostInAll)
      throw new ProblemError(429, 'Too many links', `There are ${kept} links already; at most ${mostInAll} are kept.`);
    const now = Date.now();
    const links = targets.map((target): EntryLink => ({
      id: newId(),
      publication: this.publicationFor(target.kind, target.id, resource.id) ?? publication.id,
      resource: resource.id,
      targetKind: target.kind,
      target: target.id,
      caption: request.caption,
      createdBy: by,
      createdAt: new Date(now),
      expiresAt: new Date(now + request.days * 86_400_000),
      revokedAt: null,
      opened: 0,
      openedAt: null,
    }));
    await this.data.getRepository(EntryLink).insert(links);
    return links.map((link) => this.view(link));
  }

  /** The publication through which most of those a link is for see the resource; they may hold different ones. */
  private publicationFor(kind: EntryLinkRequest['targetKind'], id: string, resource: string): string | undefined {
    const { model } = this.store;
    const people =
      kind === 'person'
        ? [id]
        : kind === 'group'
          ? [...model.access.peopleIn(id)]
          : (kind === 'endpoint' ? crossingsOn(model, id) : model.crossingsAt(id))
              .filter((ref) => ref.resource === resource)
              .map((ref) => ref.person);
    const counts = new Map<string, number>();
    for (const person of people) {
      const reached = model.access.ofPerson(person).seen.find((each) => each.resource === resource);
      if (reached) counts.set(reached.publication, (counts.get(reached.publication) ?? 0) + 1);
    }
    return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
  }

  private endpointsAt(location: string, resource: string): { kind: 'endpoint'; id: string }[] {
    const ids = new Set(this.store.model.crossingsAt(location).flatMap((ref) => (ref.resource === resource ? [ref.endpoint] : [])));
    return [...ids].sort((a, b) => a.localeCompare(b, 'en', { numeric: true })).map((id) => ({ kind: 'endpoint', id }));
  }

  async list(): Promise<EntryLinkView[]> {
    const links = await this.data.getRepository(EntryLink).find({ order: { createdAt: 'DESC', id: 'ASC' }, take: 1000 });
    return links
      .map((link) => this.view(link))
      .sort((a, b) => b.createdAt.localeCompare(a.createdAt) || a.targetName.localeCompare(b.targetName, 'en', { numeric: true }));
  }

  /** Links by id, in the order asked for. */
  async some(ids: readonly string[]): Promise<EntryLinkView[]> {
    const found = new Map((await this.data.getRepository(EntryLink).findBy({ id: In([...ids]) })).map((link) => [link.id, link]));
    return ids.map((id) => {
      const link = found.get(id);
      if (!link) throw notFound('link', id);
      return this.view(link);
    });
  }

  async revoke(id: string): Promise<void> {
    const { affected } = await this.data.getRepository(EntryLink).update({ id }, { revokedAt: new Date() });
    if (!affected) throw notFound('link', id);
  }

  /** Undoes a revocation, for whoever pressed the wrong row. */
  async restore(id: string): Promise<void> {
    const { affected } = await this.data.getRepository(EntryLink).update({ id }, { revokedAt: null });
    if (!affected) throw notFound('link', id);
  }

  /** Where an opened link leads, counted; or why it leads nowhere any more. */
  async open(id: string): Promise<{ leadsTo: string } | { gone: 'unknown' | 'expired' | 'revoked' | 'leads nowhere' }> {
    const link = await this.data.getRepository(EntryLink).findOneBy({ id });
    if (!link) return { gone: 'unknown' };
    const { state, leadsTo } = this.view(link);
    if (state !== 'good') return { gone: state };
    await this.data.query('UPDATE entry_link SET opened = opened + 1, opened_at = now() WHERE id = $1', [id]);
    return { leadsTo };
  }

  /** For the portal: whom a link is for, while it is good. */
  async target(id: string): Promise<{ targetKind: string; target: string }> {
    const link = await this.data.getRepository(EntryLink).findOneBy({ id });
    if (!link || this.view(link).state !== 'good') throw notFound('link', id);
    return { targetKind: link.targetKind, target: link.target };
  }

  view(link: EntryLink): EntryLinkView {
    const { model } = this.store;
    const publication = model.publications.get(link.publication);
    const portal = publication?.portals[0] === undefined ? undefined : model.portals.get(publication.portals[0]);
    const holds = publication?.resources.includes(link.resource) ?? false;
    const endpoint = link.targetKind === 'endpoint' ? model.endpoints.get(link.target) : undefined;
    const location =
      link.targetKind === 'location'
        ? link.target
        : (endpoint?.location ?? (link.targetKind === 'person' ? model.people.get(link.target)?.location : undefined));
    const path = entryPath(link.publication, link.resource);
    return {
      id: link.id,
      url: `${this.origin.url()}/go/${link.id}`,
      leadsTo: !portal
        ? ''
        : this.config.portalUrl
          ? `${this.config.portalUrl}/${portal.id}${path}?link=${link.id}`
          : `https://${portal.address}${path}`,
      publication: link.publication,
      resource: link.resource,
      resourceName: named(model, 'resource', link.resource).name,
      targetKind: link.targetKind,
      target: link.target,
      targetName: named(model, link.targetKind, link.target).name,
      place: location === undefined ? '' : named(model, 'location', location).name,
      caption: link.caption,
      createdBy: link.createdBy,
      createdAt: link.createdAt.toISOString(),
      expiresAt: link.expiresAt.toISOString(),
      state: link.revokedAt ? 'revoked' : link.expiresAt.getTime() < Date.now() ? 'expired' : portal && holds ? 'good' : 'leads nowhere',
      opened: link.opened,
      openedAt: link.openedAt?.toISOString() ?? null,
    };
  }

  /** Walks the ladder for one person as the link would, in the browser client, and says what is lost there. */
  test(request: LinkTestRequest): LinkTestView {
    const { reader } = this.results;
    const { model } = reader;
    const browser = knownBrowsers.find(({ id }) => id === request.browser);
    if (!browser)
      throw new ProblemError(422, 'Not valid', `The browser data does not know “${request.browser}”.`, [
        { field: 'browser', problem: `must be one of ${knownBrowsers.map(({ id }) => id).join(', ')}` },
      ]);
    const person = model.people.get(request.person);
    const resource = model.resources.get(request.resource);
    if (!person) throw notFound('person', request.person);
    if (!resource) throw notFound('resource', request.resource);
    const own = model.crossingsOf(person.id);
    const endpoint =
      request.endpoint ??
      own.find((ref) => ref.resource === resource.id)?.endpoint ??
      own[0]?.endpoint ??
      model.endpointsOf.get(person.id)?.[0];
    const device = endpoint === undefined ? undefined : model.endpoints.get(endpoint);
    if (!device) throw new ProblemError(422, 'No endpoint', `${person.name} has no endpoint here. Name one to test the link on.`);
    const ref: CrossingRef = { id: 'link test', person: person.id, endpoint: device.id, location: device.location, resource: resource.id };
    const facts = reader.read(ref);
    if (!facts) throw notFound('crossing', ref.id);
    const inBrowser = reader
      .after(
        doing(
          fieldsTo('endpoint', device.id, { clientKind: 'browser', clientVersion: request.version }),
          settingTo('session.entryLink', 'endpoint', device.id, true),
        ),
      )
      .read(ref);
    if (!inBrowser) throw notFound('crossing', ref.id);
    const found = facts.evidence.browser?.value;
    const evaluation = evaluateCrossing(inBrowser);
    // now as they come in today, but through the list; then as the link opens, in the browser client
    const before = signonTimeline({ ...computeFigures(facts).signon, entryLink: false }).totalS;
    const after = signonTimeline(withShortcut(evaluation.figures.signon, 'entry link')).totalS;
    return {
      verdict: evaluation.figures.verdict,
      sentence: sentenceOf(inBrowser, evaluation),
      ladder: evaluation.figures.ladder.map(({ name, state, bay }) => ({ name, state, bay })),
      crossing: own.find((each) => each.endpoint === device.id && each.resource === resource.id)?.id ?? null,
      lost: lostInBrowser(browser.id, request.version),
      features: (browserFeatures(browser.id, request.version) ?? []).map(({ feature }) => feature),
      browserName: browser.name,
      source: browserDataSource,
      measured: found ? measuredBrowser(found.kind, found.version, found.touch) : null,
      beforeS: before,
      afterS: after,
      savedS: Math.max(0, before - after),
    };
  }
}
