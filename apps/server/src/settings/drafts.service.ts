import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { DraftRequest, DraftView } from '@underpass/contracts';
import { DataSource, type Repository } from 'typeorm';
import { Draft } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { PaperService } from '../estate/paper.service.js';
import { ProblemError } from '../problems/problem.js';

const mostDraftsOfOne = 200;
const mostDrafts = 2000;
/** So many are listed. */
const mostListed = 200;

const writtenSince = () =>
  new ProblemError(409, 'Changed meanwhile', 'Somebody wrote this draft since you saw it. Nothing was overwritten: look at it anew.');
// a time is told in milliseconds, and may have been kept with more digits
const asSeen = "id = :id AND date_trunc('milliseconds', updated_at) = :was";

/** What somebody wrote into a draft is not written over unseen. @throws ProblemError 409 where it was written since */
export function assertSeen({ updatedAt }: Draft, seen: string): void {
  if (updatedAt.toISOString() !== seen) throw writtenSince();
}

/** Where drafts are kept. */
@Injectable()
export class DraftsService {
  private readonly kept: Repository<Draft>;

  constructor(
    @InjectDataSource() data: DataSource,
    private readonly paper: PaperService,
  ) {
    this.kept = data.getRepository(Draft);
  }

  async latest(): Promise<DraftView[]> {
    const drafts = await this.kept.find({ order: { createdAt: 'DESC' }, take: mostListed });
    return drafts.map((draft) => this.paper.draftView(draft));
  }

  async keep({ name, crossing, change }: DraftRequest, by: string): Promise<DraftView> {
    this.paper.assertGood(change);
    const [own, all] = [await this.kept.countBy({ createdBy: by }), await this.kept.count()];
    if (own >= mostDraftsOfOne || all >= mostDrafts)
      throw new ProblemError(429, 'Too many drafts', `There are ${own} drafts of yours and ${all} in all. Drop some that are done with.`);
    const at = new Date();
    // with what stands there now beside it, so that it shows later what somebody changed meanwhile
    const grounded = this.paper.grounded(change);
    const draft = this.kept.create({
      id: uuidV7(),
      name,
      crossing: crossing ?? null,
      change: grounded,
      createdBy: by,
      createdAt: at,
      updatedAt: at,
    });
    await this.kept.insert(draft as never);
    return this.paper.draftView(draft);
  }

  async find(id: string): Promise<Draft> {
    const draft = await this.kept.findOneBy({ id });
    if (!draft) throw new ProblemError(404, 'Not found', 'There is no such draft. It may have been dropped.');
    return draft;
  }

  /** Writes over the version that was seen, in one statement: of two who do at once the second is told. */
  async written(draft: Draft, more: Partial<Pick<Draft, 'name' | 'change'>>, seen: string): Promise<DraftView> {
    assertSeen(draft, seen);
    // later than the one before, though the clock stood still
    const updatedAt = new Date(Math.max(Date.now(), draft.updatedAt.getTime() + 1));
    const { affected } = await this.kept
      .createQueryBuilder()
      .update()
      .set({ ...(more as object), updatedAt })
      .where(asSeen, { id: draft.id, was: draft.updatedAt })
      .execute();
    if (affected !== 1) throw writtenSince();
    return this.paper.draftView({ ...draft, ...more, updatedAt });
  }

  /** Drops a draft; where somebody wrote it since it was seen it stays. One that is not there is dropped already. */
  async drop(id: string, seen: string | undefined): Promise<void> {
    const draft = await this.kept.findOneBy({ id });
    if (!draft) return;
    if (seen !== undefined) assertSeen(draft, seen);
    const dropping = this.kept.createQueryBuilder().delete();
    const { affected } = await (
      seen === undefined ? dropping.where({ id }) : dropping.where(asSeen, { id, was: draft.updatedAt })
    ).execute();
    if (affected !== 1 && (await this.kept.existsBy({ id }))) throw writtenSince();
  }
}
