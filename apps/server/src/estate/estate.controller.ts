import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query, Req, Res } from '@nestjs/common';
import { ApiBody, ApiHeader, ApiTags } from '@nestjs/swagger';
import {
  BoundedJson,
  EstateExportRequest,
  ImportJob,
  JobStarted,
  ObjectKindWord,
  ObjectQuery,
  completed,
  jsonSchemas,
  kindWords,
  objectKinds,
  referencesOf,
  reportedKinds,
  type ObjectKind,
  JsonSchemas,
  KindCount,
  ObjectAnswer,
  ObjectPage,
  Applied,
  WrittenObject,
} from '@underpass/contracts';
import { stamped, type ObjectChange } from '@underpass/core';
import type { Request, Response } from 'express';
import { z } from 'zod';
import { Confirmed, Needs, type SignedRequest } from '../signin/session.guard.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { bytesOf } from '../edge/bytesOf.js';
import { Exports } from '../jobs/exports.service.js';
import { AtOnce, kB, MB, Takes } from '../edge/takes.js';
import { ChangeService } from './change.service.js';
import { ChangeHistory } from './changeHistory.service.js';
import { EstateStore } from './estate.store.js';
import { ImportService } from './import.service.js';
import { Listing } from './listing.js';
import { Answers, AnswersFile } from '../edge/answers.js';

const AnyObject = z.record(z.string().max(80), BoundedJson);

@ApiTags('estate')
@Controller('estate')
export class EstateController {
  constructor(
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    private readonly past: ChangeHistory,
    private readonly imports: ImportService,
    private readonly log: SecurityLog,
    private readonly exports: Exports,
    private readonly listing: Listing,
  ) {}

  @Get()
  @Answers(KindCount.array())
  counts(): { kind: ObjectKind; count: number }[] {
    return objectKinds.map((kind) => ({ kind, count: this.store.count(kind) }));
  }

  @Get('schemas')
  @Answers(JsonSchemas)
  schemas(): Record<string, unknown> {
    return jsonSchemas();
  }

  /**
   * Asks for the estate folder as a ZIP, or for the list of one kind as its file. Reading it again changes nothing. Follow the job,
   * then fetch the file.
   */
  @Post('exports')
  @Answers(JobStarted, 202)
  @HttpCode(202)
  @Needs('engineer')
  @Confirmed()
  async export(
    @Body({ schema: EstateExportRequest.prefault({}) }) body: EstateExportRequest,
    @Req() request: SignedRequest,
  ): Promise<JobStarted> {
    const what = body.kind ? `the list of ${kindWords[body.kind].many.toLowerCase()}` : 'the estate';
    const job = await this.exports.start(body.kind ? 'list export' : 'export', `Export of ${what}`, request.user.name, body);
    await this.log.recordOf('exported', request, what);
    return { job };
  }

  /** The file of an export that is done, for an hour. */
  @Get('exports/:id')
  @AnswersFile('application/zip', 'text/csv', 'text/yaml')
  @Needs('engineer')
  @Confirmed()
  exported(@Param('id', { schema: z.uuid() }) id: string, @Res() response: Response): Promise<void> {
    return this.exports.send(['export', 'list export'], id, response);
  }

  @Post('import')
  @Answers(ImportJob, 202)
  @HttpCode(202)
  @Takes(80 * MB, 'bytes')
  @AtOnce('upload', 1, 2)
  @ApiBody({ type: Object, description: 'ImportRequest: files by name, and whether to apply them' })
  import(@Body() body: unknown, @Req() request: SignedRequest): Promise<ImportJob> {
    return this.imports.start(bytesOf(body), request.user.name);
  }

  @Get('import/:id')
  @Answers(ImportJob)
  progress(@Param('id', { schema: z.uuid() }) id: string): Promise<ImportJob> {
    return this.imports.job(id);
  }

  @Get(':kind')
  @Answers(ObjectPage)
  list(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Query({ schema: ObjectQuery }) query: ObjectQuery,
  ): Promise<ObjectPage> {
    return this.listing.page(kind, query);
  }

  @Get(':kind/:id')
  @Answers(ObjectAnswer)
  async one(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id') id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ object: object; version: string; history: object[] }> {
    const object = this.store.find(kind, id);
    if (!object) throw notFound(kind, id);
    const version = this.store.versionOf(kind, id) ?? '0';
    response.setHeader('etag', `"${version}"`);
    return { object, version, history: await this.past.latest(20, { kind, id }) };
  }

  /**
   * Writes an object as a whole. The version it rests on is named in If-Match, or If-None-Match: * says that it is new; where
   * somebody else wrote meanwhile nothing is changed, and both versions are told [RFC 9110 13.1].
   */
  @Put(':kind/:id')
  @Answers(WrittenObject)
  @Takes(512 * kB)
  @ApiHeader({ name: 'If-Match', required: false, description: 'The ETag of the version that was read' })
  @ApiHeader({ name: 'If-None-Match', required: false, description: '* for an object that must not exist yet' })
  async put(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id') id: string,
    @Body({ schema: AnyObject }) body: Record<string, unknown>,
    @Req() request: SignedRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<WrittenObject> {
    if (body.id !== id)
      throw new ProblemError(422, 'Not valid', 'The id in the address and in the object differ.', [
        { field: 'id', problem: `must be ${id}` },
      ]);
    const basis = basisOf(request);
    const seen = () => this.store.versionOf(kind, id);
    let conflict = false;
    const plan = () => {
      const before = this.store.find(kind, id) ?? null;
      conflict = basis === 'new' ? before !== null : before === null || seen() !== basis;
      if (conflict) throw new Conflict();
      return [stamped({ kind, id, before, after: completed(kind, body) }, Date.now())];
    };
    const summary = `${basis === 'new' ? 'Added' : 'Changed'} ${kind} ${id}`;
    const applied = await this.changes.apply(plan, request.user.name, summary).catch(async (error: unknown) => {
      throw error instanceof Conflict ? await this.conflictOf(kind, id) : error;
    });
    const version = seen() ?? '0';
    response.setHeader('etag', `"${version}"`);
    return { ...applied, version };
  }

  /** Both versions, who wrote the one that stands, and when. */
  private async conflictOf(kind: ObjectKind, id: string): Promise<ProblemError> {
    const now = this.store.find(kind, id) ?? null;
    const last = await this.past.lastOf(kind, id);
    const by = last?.by ?? 'somebody';
    return new ProblemError(
      409,
      now ? 'Changed meanwhile' : 'Removed meanwhile',
      now ? `${by} changed it since you opened it. Nothing was overwritten.` : `${by} removed it since you opened it.`,
      undefined,
      {},
      {
        conflict: { now, before: last?.before ?? null, version: this.store.versionOf(kind, id) ?? '0', by, at: last?.at ?? '' },
      },
    );
  }

  /** Removes an object. Where If-Match names a version and somebody wrote since, nothing is removed, and both versions are told. */
  @Delete(':kind/:id')
  @Answers(Applied)
  @Needs('engineer')
  @ApiHeader({ name: 'If-Match', required: false, description: 'The ETag of the version that was read' })
  async remove(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id') id: string,
    @Req() request: SignedRequest,
  ): Promise<Applied> {
    const basis = request.headers['if-match'] === undefined ? null : basisOf(request);
    const plan = () => {
      const before = this.store.find(kind, id);
      if (!before) throw notFound(kind, id);
      if (basis !== null && this.store.versionOf(kind, id) !== basis) throw new Conflict();
      return [{ kind, id, before, after: null }, ...this.reportsOf(kind, id)];
    };
    return this.changes.apply(plan, request.user.name, `Removed ${kind} ${id}`).catch(async (error: unknown) => {
      throw error instanceof Conflict ? await this.conflictOf(kind, id) : error;
    });
  }

  /** What was only reported about an object goes with it: its sessions and its last sign-in. */
  private reportsOf(kind: ObjectKind, id: string): ObjectChange[] {
    return reportedKinds.flatMap((reported) =>
      [...this.store.all(reported)]
        .filter((object) => referencesOf(reported, object).some((each) => each.to === kind && each.id === id))
        .map((object) => ({ kind: reported, id: (object as { id: string }).id, before: object, after: null })),
    );
  }
}

class Conflict extends Error {}

/** The version a form began with, or that the object is new. */
function basisOf(request: Request): string {
  const { 'if-match': match, 'if-none-match': none } = request.headers;
  if (none === '*' && match === undefined) return 'new';
  if (match === undefined)
    throw new ProblemError(
      428,
      'Which version',
      'Name the version this rests on with If-Match, or say with If-None-Match: * that it is new.',
    );
  const version = /^"(\d{1,19})"$/.exec(match)?.[1];
  if (version === undefined || none !== undefined)
    throw new ProblemError(400, 'Not valid', 'If-Match must be the ETag that came with the object, such as "42".');
  return version;
}
