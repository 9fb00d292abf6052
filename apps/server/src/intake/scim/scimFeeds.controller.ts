import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Req } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ApiTags } from '@nestjs/swagger';
import { ChangedScimOptions, NewScimFeed, ScimFeedMade, ScimFeedView, ScimOptions, type FeedLast } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { z } from 'zod';
import { Answers, AnswersNothing } from '../../edge/answers.js';
import { overSeen } from '../../database/overSeen.js';
import { notFound } from '../../problems/problem.js';
import { hashToken, newToken } from '../../secrets/tokens.js';
import { SecurityLog } from '../../securityLog/securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../../signin/session.guard.js';
import { FeedRows } from '../feeds/feedRows.js';
import { ScimService } from './scim.service.js';

const Uuid = z.uuid();

interface FeedRow {
  id: string;
  name: string;
  options: unknown;
  by_name: string;
  at: Date;
  last_at: Date | null;
  last: FeedLast | null;
  users: number;
  groups: number;
}

/** Directories that send, and the tokens they come with. */
@ApiTags('intake')
@Controller('intake/scim')
export class ScimFeedsController {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly feeds: FeedRows,
    private readonly scim: ScimService,
    private readonly log: SecurityLog,
  ) {}

  @Get()
  @Answers(ScimFeedView.array())
  @Needs('engineer')
  list(): Promise<ScimFeedView[]> {
    return this.rows(null);
  }

  /** Adds one. Its token is told this once, and kept as its sum alone. */
  @Post()
  @Answers(ScimFeedMade, 201)
  @Needs('admin')
  @Confirmed()
  async add(
    @Body({ schema: NewScimFeed }) { name, options }: z.infer<typeof NewScimFeed>,
    @Req() request: SignedRequest,
  ): Promise<ScimFeedMade> {
    const token = newToken();
    const id = await this.feeds.add({ kind: 'scim', name, options, tokenHash: hashToken(token) }, request);
    return { feed: await this.one(id), token };
  }

  /** Another token; the one before is worth nothing from then on. */
  @Post(':id/token')
  @Answers(ScimFeedMade, 201)
  @Needs('admin')
  @Confirmed()
  async token(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<ScimFeedMade> {
    const token = newToken();
    await this.data.query(`UPDATE feed SET token_hash = $2 WHERE id = $1 AND kind = 'scim'`, [id, hashToken(token)]);
    const feed = await this.one(id);
    await this.log.recordOf('directory added', request, `${feed.name}: another token`);
    return { feed, token };
  }

  /** How what it sends becomes people here, from the next request on. */
  @Put(':id')
  @Answers(ScimFeedView)
  @Needs('admin')
  async change(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: ChangedScimOptions }) { was, ...options }: z.infer<typeof ChangedScimOptions>,
  ): Promise<ScimFeedView> {
    await overSeen(
      this.data,
      async (manager) => {
        const [row] = (await manager.query(`SELECT options FROM feed WHERE id = $1 AND kind = 'scim'`, [id])) as { options: object }[];
        if (!row) throw notFound('directory', id);
        return ScimOptions.parse(row.options);
      },
      { was, changed: () => 'These options were changed since you saw them' },
      (manager) => manager.query(`UPDATE feed SET options = $2 WHERE id = $1 AND kind = 'scim'`, [id, JSON.stringify(options)]),
    );
    return this.one(id);
  }

  /** It is not listened to any more. The people and groups it brought stay. */
  @Delete(':id')
  @AnswersNothing()
  @HttpCode(204)
  @Needs('admin')
  @Confirmed()
  async remove(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<void> {
    await this.feeds.remove('scim', id, request);
  }

  private async one(id: string): Promise<ScimFeedView> {
    const [row] = await this.rows(id);
    if (!row) throw notFound('directory', id);
    return row;
  }

  private async rows(id: string | null): Promise<ScimFeedView[]> {
    const rows = (await this.data.query(
      `SELECT f.id, f.name, f.options, f.by_name, f.at, f.last_at, f.last,
         (SELECT count(*)::int FROM scim_resource r WHERE r.feed = f.id AND r.kind = 'User') AS users,
         (SELECT count(*)::int FROM scim_resource r WHERE r.feed = f.id AND r.kind = 'Group') AS groups
       FROM feed f WHERE f.kind = 'scim' AND ($1::uuid IS NULL OR f.id = $1) ORDER BY lower(f.name)`,
      [id],
    )) as FeedRow[];
    return rows.map(({ by_name: by, at, last_at: lastAt, options, ...row }) => ({
      ...row,
      ...{ options: ScimOptions.parse(options), by, at: at.toISOString(), lastAt: lastAt?.toISOString() ?? null, address: this.scim.base },
    }));
  }
}
