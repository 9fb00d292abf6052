import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { CheckGreeting, CheckLinkRequest, CheckLinkView, Person } from '@underpass/contracts';
import { checkWanted } from '@underpass/core';
import QRCode from 'qrcode';
import { DataSource } from 'typeorm';
import { hashToken, newToken } from '../secrets/tokens.js';
import { CheckLink } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { EstateStore } from '../estate/estate.store.js';
import { PublicOrigin } from '../edge/publicOrigin.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Channel } from '../events/channel.service.js';

const mostOfOne = 1000;
const mostInAll = 10_000;

/** Links to field checks: unguessable, kept as hashes, they expire and can be revoked. */
@Injectable()
export class CheckLinkService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly channel: Channel,
    private readonly origin: PublicOrigin,
  ) {}

  async make(request: CheckLinkRequest, by: string): Promise<CheckLinkView> {
    await this.assertRoom(by);
    if (!this.store.find('location', request.location)) throw notFound('location', request.location);
    const endpoint = request.endpoint ? (this.store.find('endpoint', request.endpoint) as { location: string } | undefined) : undefined;
    if (request.endpoint && !endpoint) throw notFound('endpoint', request.endpoint);
    if (endpoint && endpoint.location !== request.location)
      throw new ProblemError(422, 'Not valid', `${request.endpoint} is at ${endpoint.location}, not at ${request.location}.`);
    if (request.person && !this.store.find('person', request.person)) throw notFound('person', request.person);
    const token = newToken();
    const link: CheckLink = Object.assign(new CheckLink(), {
      id: uuidV7(),
      tokenHash: hashToken(token),
      endpoint: request.endpoint ?? null,
      person: request.person ?? null,
      location: request.location,
      createdBy: by,
      createdAt: new Date(),
      expiresAt: new Date(Date.now() + request.hours * 3_600_000),
      revokedAt: null,
      opened: 0,
      state: 'not opened',
      step: '',
    });
    await this.data.getRepository(CheckLink).insert(link);
    const url = `${this.origin.url()}/check/${token}`;
    return { ...view(link), url, qr: await QRCode.toString(url, { type: 'svg', errorCorrectionLevel: 'M', margin: 4 }) };
  }

  /** Links that still open something are bounded, for one person and for all. */
  private async assertRoom(by: string): Promise<void> {
    const [{ own, all }] = (await this.data.query(
      `SELECT count(*) FILTER (WHERE created_by = $1)::int AS own, count(*)::int AS all FROM check_link
       WHERE expires_at > now() AND revoked_at IS NULL`,
      [by],
    )) as [{ own: number; all: number }];
    if (own >= mostOfOne || all >= mostInAll)
      throw new ProblemError(429, 'Too many links', `${own} links of yours and ${all} in all are still open. Take some back first.`);
  }

  async list(): Promise<CheckLinkView[]> {
    return (await this.data.getRepository(CheckLink).find({ order: { createdAt: 'DESC' }, take: 100 })).map(view);
  }

  async one(id: string): Promise<CheckLinkView> {
    const link = await this.data.getRepository(CheckLink).findOneBy({ id });
    if (!link) throw notFound('field check', id);
    return view(link);
  }

  async revoke(id: string): Promise<void> {
    const { affected } = await this.data.getRepository(CheckLink).update({ id }, { revokedAt: new Date() });
    if (!affected) throw notFound('field check', id);
    await this.tell(id);
  }

  async byToken(token: string): Promise<CheckLink | null> {
    return this.data.getRepository(CheckLink).findOneBy({ tokenHash: hashToken(token) });
  }

  /** The link of a token that may still be used. */
  async usable(token: string): Promise<CheckLink> {
    const link = await this.byToken(token);
    if (!link) throw new ProblemError(404, 'Not found', 'This link is not known. Ask for a new one.');
    const gone = goneBecause(link);
    if (gone)
      throw new ProblemError(
        410,
        'No longer good',
        gone === 'expired' ? 'This link has expired. Ask for a new one.' : 'This link was taken back. Ask for a new one.',
      );
    return link;
  }

  async greeting(token: string): Promise<CheckGreeting> {
    const link = await this.byToken(token);
    if (!link) throw new ProblemError(404, 'Not found', 'This link is not known. Ask for a new one.');
    const gone = goneBecause(link);
    if (!gone) await this.progress(link.id, link.state === 'not opened' ? 'opened' : link.state, '', true);
    const location = this.store.model.locations.get(link.location);
    const person = link.person ? (this.store.find('person', link.person) as Person | undefined) : undefined;
    const { model } = this.store;
    const { name, helpDesk } = model.organisation;
    const resources = (link.person ? model.crossingsOf(link.person) : []).flatMap(({ resource }) => model.resources.get(resource) ?? []);
    return {
      organisation: name,
      helpDesk: helpDesk ?? null,
      firstName: person?.name.split(' ')[0] ?? null,
      place: location?.name ?? '',
      home: location?.kind === 'home',
      wanted: checkWanted(model.organisation, resources),
      gone,
    };
  }

  async progress(id: string, state: string, step: string, opened = false): Promise<void> {
    await this.data.query('UPDATE check_link SET state = $2, step = $3, opened = opened + $4 WHERE id = $1', [
      id,
      state,
      step,
      opened ? 1 : 0,
    ]);
    await this.tell(id);
  }

  private async tell(id: string): Promise<void> {
    await this.channel.tell({ type: 'check', id });
  }
}

export const goneBecause = (link: CheckLink): CheckGreeting['gone'] =>
  link.revokedAt ? 'revoked' : link.expiresAt < new Date() ? 'expired' : null;

const view = (link: CheckLink): CheckLinkView => ({
  id: link.id,
  endpoint: link.endpoint,
  person: link.person,
  location: link.location,
  createdAt: link.createdAt.toISOString(),
  createdBy: link.createdBy,
  expiresAt: link.expiresAt.toISOString(),
  revokedAt: link.revokedAt?.toISOString() ?? null,
  opened: link.opened,
  state: link.state as CheckLinkView['state'],
  step: link.step,
});
