import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query, Req, Res } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import {
  ImportJob,
  ImportRequest,
  ObjectKindWord,
  ObjectQuery,
  jsonSchemas,
  objectKinds,
  referencesOf,
  writeFolder,
  type ObjectKind,
} from '@underpass/contracts';
import type { ObjectChange } from '@underpass/core';
import type { Response } from 'express';
import { strToU8, zipSync } from 'fflate';
import { z } from 'zod';
import { Needs, type SignedRequest } from '../session/session.guard.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { ChangeService } from './change.service.js';
import { EstateStore } from './estate.store.js';
import { ImportService } from './import.service.js';
import { reportedKinds } from './validate.js';

const AnyObject = z.record(z.string(), z.json());

@ApiTags('estate')
@Controller('estate')
export class EstateController {
  constructor(
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    private readonly imports: ImportService,
  ) {}

  @Get()
  counts(): { kind: ObjectKind; count: number }[] {
    return objectKinds.map((kind) => ({ kind, count: this.store.count(kind) }));
  }

  @Get('schemas')
  schemas(): Record<string, unknown> {
    return jsonSchemas();
  }

  /** The estate folder as a ZIP; reading it again changes nothing. */
  @Get('export')
  export(@Res() response: Response): void {
    const files = writeFolder(this.store.written(), this.store.allMeasurements());
    const zip = zipSync(Object.fromEntries([...files].map(([name, text]) => [name, strToU8(text)])));
    response.type('application/zip').attachment('estate.zip').send(Buffer.from(zip));
  }

  @Post('import')
  @HttpCode(202)
  @ApiOkResponse({ standardSchema: ImportJob })
  import(@Body({ schema: ImportRequest }) body: ImportRequest, @Req() request: SignedRequest): ImportJob {
    return this.imports.start(body.files, body.apply, request.user.name);
  }

  @Get('import/:id')
  @ApiOkResponse({ standardSchema: ImportJob })
  progress(@Param('id') id: string): ImportJob {
    return this.imports.job(id);
  }

  @Get(':kind')
  list(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Query({ schema: ObjectQuery }) query: ObjectQuery,
  ): { total: number; rows: object[] } {
    const wanted = query.search?.toLowerCase();
    const rows: object[] = [];
    let total = 0;
    for (const object of this.store.all(kind)) {
      if (wanted && !matches(object, wanted)) continue;
      if (total >= query.offset && rows.length < query.limit) rows.push(object);
      total++;
    }
    return { total, rows };
  }

  @Get(':kind/:id')
  async one(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id') id: string,
  ): Promise<{ object: object; history: object[] }> {
    const object = this.store.find(kind, id);
    if (!object) throw notFound(kind, id);
    return { object, history: await this.changes.latest(20, { kind, id }) };
  }

  @Put(':kind/:id')
  async put(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id') id: string,
    @Body({ schema: AnyObject }) body: Record<string, unknown>,
    @Req() request: SignedRequest,
  ): Promise<{ changeId: string }> {
    if (body.id !== id)
      throw new ProblemError(422, 'Not valid', 'The id in the address and in the object differ.', [
        { field: 'id', problem: `must be ${id}` },
      ]);
    const before = this.store.find(kind, id) ?? null;
    const changeId = await this.changes.apply(
      [{ kind, id, before, after: body }],
      request.user.name,
      `${before ? 'Changed' : 'Added'} ${kind} ${id}`,
    );
    return { changeId };
  }

  @Delete(':kind/:id')
  @Needs('engineer')
  async remove(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id') id: string,
    @Req() request: SignedRequest,
  ): Promise<{ changeId: string }> {
    const before = this.store.find(kind, id);
    if (!before) throw notFound(kind, id);
    const removed = [{ kind, id, before, after: null }, ...this.reportsOf(kind, id)];
    return { changeId: await this.changes.apply(removed, request.user.name, `Removed ${kind} ${id}`) };
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

function matches(object: object, wanted: string): boolean {
  for (const field of ['id', 'name', 'key', 'location', 'target', 'pool'] as const) {
    const content = (object as Record<string, unknown>)[field];
    if (typeof content === 'string' && content.toLowerCase().includes(wanted)) return true;
  }
  return false;
}
