import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ApiBody, ApiTags } from '@nestjs/swagger';
import { JobStarted, KeptMap, ListLook, ListQuery, ListRequest, LookQuery, MapName, MapRequest, TableMap } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { z } from 'zod';
import { Answers, AnswersNothing } from '../edge/answers.js';
import { bytesOf } from '../edge/bytesOf.js';
import { overSeen } from '../database/overSeen.js';
import { AtOnce, MB, Takes } from '../edge/takes.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { ListsService } from './lists.service.js';

const Uuid = z.uuid();
const mostMaps = 500;
const columns = 'name, map, by_name AS by, at';
type KeptRow = Omit<KeptMap, 'at'> & { at: Date };
const shown = ({ at, ...map }: KeptRow): KeptMap => ({ ...map, at: at.toISOString() });

/** Lists of others: sent, mapped, mended and taken in. */
@ApiTags('intake')
@Controller('intake')
export class IntakeController {
  constructor(
    private readonly lists: ListsService,
    @InjectDataSource() private readonly data: DataSource,
  ) {}

  /** Sends a list: CSV, a workbook or LDIF, as it is. It is looked at and kept for a day. */
  @Post('lists')
  @Answers(ListLook, 201)
  @Needs('engineer')
  @Takes(60 * MB, 'octets')
  @AtOnce('upload', 1, 2)
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  keep(@Query({ schema: ListQuery }) { name }: { name: string }, @Body() body: unknown, @Req() { user }: SignedRequest): Promise<ListLook> {
    return this.lists.keep(name, bytesOf(body), user.name);
  }

  /** A list that was sent, read as somebody says: as another kind, another sheet, with another head. */
  @Get('lists/:id')
  @Answers(ListLook)
  @Needs('engineer')
  @AtOnce('look at a list', 2, 4)
  look(
    @Param('id', { schema: Uuid }) id: string,
    @Query({ schema: LookQuery }) query: z.infer<typeof LookQuery>,
    @Req() { user }: SignedRequest,
  ): Promise<ListLook> {
    return this.lists.look(id, user.name, query);
  }

  /** Starts a dry run: what the list would come to. The job’s result is a ListOutcome. */
  @Post('lists/:id/check')
  @Answers(JobStarted, 202)
  @HttpCode(202)
  @Needs('engineer')
  @Takes(2 * MB)
  async check(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: ListRequest }) request: ListRequest,
    @Req() { user }: SignedRequest,
  ): Promise<JobStarted> {
    return { job: await this.lists.start(id, request, false, user.name) };
  }

  /** Takes the list in: the rows that are good, as one change. The others are told. */
  @Post('lists/:id/take')
  @Answers(JobStarted, 202)
  @HttpCode(202)
  @Needs('engineer')
  @Takes(2 * MB)
  async take(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: ListRequest }) request: ListRequest,
    @Req() { user }: SignedRequest,
  ): Promise<JobStarted> {
    return { job: await this.lists.start(id, request, true, user.name) };
  }

  /** Mappings that are kept by name. */
  @Get('maps')
  @Answers(KeptMap.array())
  @Needs('engineer')
  async maps(): Promise<KeptMap[]> {
    const rows = (await this.data.query(`SELECT ${columns} FROM table_map ORDER BY lower(name) LIMIT ${mostMaps}`)) as KeptRow[];
    return rows.map(shown);
  }

  /** Keeps a mapping; one of the same name is replaced. */
  @Put('maps')
  @Answers(KeptMap)
  @Needs('engineer')
  @Takes(MB)
  async keepMap(
    @Body({ schema: MapRequest }) { name, map, was }: z.infer<typeof MapRequest>,
    @Req() { user }: SignedRequest,
  ): Promise<KeptMap> {
    let by = '';
    const [row] = await overSeen(
      this.data,
      async (manager) => {
        const [there] = (await manager.query(`SELECT ${columns} FROM table_map WHERE lower(name) = lower($1)`, [name])) as KeptRow[];
        by = there?.by ?? '';
        return there ? TableMap.parse(there.map) : null;
      },
      { was, changed: (now) => (now ? `${by} kept another mapping as “${name}”` : `The mapping “${name}” was dropped`) },
      async (manager) =>
        (await manager.query(
          `INSERT INTO table_map (name, map, by_name, at)
             SELECT $1, $2, $3, now() WHERE (SELECT count(*) FROM table_map) < $4 OR EXISTS (SELECT FROM table_map WHERE lower(name) = lower($1))
           ON CONFLICT (lower(name)) DO UPDATE SET name = $1, map = $2, by_name = $3, at = now() RETURNING ${columns}`,
          [name, JSON.stringify(map), user.name, mostMaps],
        )) as KeptRow[],
    );
    if (!row) throw new ProblemError(429, 'Too many mappings', `${mostMaps} mappings are kept. Drop some that nobody uses.`);
    return shown(row);
  }

  @Delete('maps/:name')
  @AnswersNothing()
  @HttpCode(204)
  @Needs('engineer')
  async dropMap(@Param('name', { schema: MapName }) name: string): Promise<void> {
    const [, dropped] = (await this.data.query('DELETE FROM table_map WHERE lower(name) = lower($1)', [name])) as [unknown, number];
    if (dropped === 0) throw notFound('mapping', name);
  }
}
