import { Body, Controller, Delete, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ApiTags } from '@nestjs/swagger';
import { KeptView, Made, ViewRequest } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { z } from 'zod';
import { uuidV7 } from '../database/uuid.js';
import { Answers, AnswersNothing } from '../edge/answers.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';

const mostOfOne = 100;
const columns = `v.id, v.name, v.path, v.search, v.for_all AS "forAll", u.name AS by, v.user_id = $1 AS own`;

/** Views that are kept by name: everybody's own, and those that are for all. */
@ApiTags('views')
@Controller('views')
export class ViewsController {
  constructor(@InjectDataSource() private readonly data: DataSource) {}

  @Get()
  @Answers(KeptView.array())
  list(@Req() { user }: SignedRequest): Promise<KeptView[]> {
    return this.data.query(
      `SELECT ${columns} FROM kept_view v JOIN app_user u ON u.id = v.user_id WHERE v.user_id = $1 OR v.for_all ORDER BY lower(v.name), v.id LIMIT 500`,
      [user.id],
    );
  }

  /** One by its link. Whoever has the link sees it: it holds filters and an order, and nothing of what they show. */
  @Get(':id')
  @Answers(KeptView)
  async one(@Param('id', { schema: z.uuid() }) id: string, @Req() { user }: SignedRequest): Promise<KeptView> {
    const [view] = (await this.data.query(`SELECT ${columns} FROM kept_view v JOIN app_user u ON u.id = v.user_id WHERE v.id = $2`, [
      user.id,
      id,
    ])) as KeptView[];
    if (!view) throw notFound('view', id);
    return view;
  }

  /** Keeps a view; one of one's own with the same name on the same screen is replaced. For all it is kept by engineers. */
  @Post()
  @Answers(Made, 201)
  @Needs('reader')
  async keep(
    @Body({ schema: ViewRequest }) { name, path, search, forAll }: ViewRequest,
    @Req() { user }: SignedRequest,
  ): Promise<{ id: string }> {
    if (forAll && user.role === 'reader')
      throw new ProblemError(403, 'Not allowed', 'A view for everybody is kept by an access engineer. Keep it as your own.');
    const [made] = (await this.data.query(
      `INSERT INTO kept_view (id, user_id, name, path, search, for_all, at)
         SELECT $1, $2, $3, $4, $5, $6, now()
         WHERE (SELECT count(*) FROM kept_view WHERE user_id = $2) < $7
            OR EXISTS (SELECT FROM kept_view WHERE user_id = $2 AND path = $4 AND lower(name) = lower($3))
       ON CONFLICT (user_id, path, lower(name)) DO UPDATE SET name = $3, search = $5, for_all = $6, at = now() RETURNING id`,
      [uuidV7(), user.id, name, path, search, forAll, mostOfOne],
    )) as { id: string }[];
    if (!made) throw new ProblemError(429, 'Too many views', `You keep ${mostOfOne} views. Drop some that you are done with.`);
    return made;
  }

  /** Drops a view: one's own, or as an administrator anybody's. */
  @Delete(':id')
  @AnswersNothing()
  @HttpCode(204)
  @Needs('reader')
  async drop(@Param('id', { schema: z.uuid() }) id: string, @Req() { user }: SignedRequest): Promise<void> {
    const [, dropped] = (await this.data.query('DELETE FROM kept_view WHERE id = $1 AND (user_id = $2 OR $3)', [
      id,
      user.id,
      user.role === 'admin',
    ])) as [unknown, number];
    if (dropped === 0) throw notFound('view', id);
  }
}
