import {
  All,
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  Patch,
  Post,
  Put,
  Query,
  Req,
  Res,
  UseFilters,
  UseGuards,
} from '@nestjs/common';
import { ApiExcludeEndpoint, ApiTags } from '@nestjs/swagger';
import { ScimAnswer, ScimQuery } from '@underpass/contracts';
import { groupKind, userKind, type PatchOperation, type ScimKind, type ScimResource } from '@underpass/core';
import type { Response } from 'express';
import { z } from 'zod';
import { Answers, AnswersNothing } from '../../edge/answers.js';
import { AtOnce, MB, Takes } from '../../edge/takes.js';
import { ProblemError } from '../../problems/problem.js';
import { Public } from '../../signin/session.guard.js';
import { providerConfig, resourceTypes, schemas } from './described.js';
import { ScimFilter, scimType } from './scim.filter.js';
import { ScimGuard, type ScimRequest } from './scim.guard.js';
import { ScimService, type Shown } from './scim.service.js';

const Id = z.string().min(1).max(300);
const Sent = z.record(z.string().max(300), z.unknown());
const Operation = z.looseObject({
  op: z
    .string()
    .transform((op) => op.toLowerCase())
    .pipe(z.enum(['add', 'remove', 'replace'])),
  path: z.string().max(2000).optional(),
  value: z.unknown().optional(),
});
/** A list of changes; names stand in any case [RFC 7643 2.1]. */
const PatchBody = z
  .record(z.string().max(300), z.unknown())
  .transform((body) => Object.fromEntries(Object.entries(body).map(([name, value]) => [name.toLowerCase(), value])))
  .pipe(z.looseObject({ operations: z.array(Operation).min(1).max(1000) }));
const Search = z.looseObject({
  filter: z.string().max(2000).optional(),
  startIndex: z.number().int().optional(),
  count: z.number().int().optional(),
  attributes: z.array(z.string().max(300)).max(100).optional(),
  excludedAttributes: z.array(z.string().max(300)).max(100).optional(),
});
const Word = z.string().max(100);
/** The kind of resource at an address; of what the standard has besides it is said that it is not done. */
function kindAt(word: string): ScimKind {
  const kind = [userKind, groupKind].find(({ endpoint }) => endpoint === `/${word}`);
  if (kind) return kind;
  if (/^(me|bulk)$/i.test(word)) throw new ProblemError(501, 'Not done', 'This is not done here; see ServiceProviderConfig.');
  throw new ProblemError(404, 'Not found', 'There is nothing at this address.');
}

/** People and groups that a directory sends [RFC 7643, RFC 7644]. */
@ApiTags('scim')
@Controller('scim/v2')
@Public()
@UseGuards(ScimGuard)
@UseFilters(ScimFilter)
export class ScimController {
  constructor(private readonly scim: ScimService) {}

  @Get('ServiceProviderConfig')
  @Answers(ScimAnswer)
  config(@Res({ passthrough: true }) response: Response): object {
    response.type(scimType);
    return providerConfig(this.scim.base);
  }

  @Get('ResourceTypes')
  @Answers(ScimAnswer)
  types(@Req() request: ScimRequest, @Res({ passthrough: true }) response: Response): object {
    return described(request, response, resourceTypes(this.scim.base));
  }
  @Get('ResourceTypes/:id')
  @Answers(ScimAnswer)
  type(@Param('id', { schema: Id }) id: string, @Res({ passthrough: true }) response: Response): object {
    return oneOf(response, resourceTypes(this.scim.base), id);
  }

  @Get('Schemas')
  @Answers(ScimAnswer)
  schemas(@Req() request: ScimRequest, @Res({ passthrough: true }) response: Response): object {
    return described(request, response, schemas(this.scim.base));
  }
  @Get('Schemas/:id')
  @Answers(ScimAnswer)
  schema(@Param('id', { schema: Id }) id: string, @Res({ passthrough: true }) response: Response): object {
    return oneOf(response, schemas(this.scim.base), id);
  }

  @Get(':kind')
  @Answers(ScimAnswer)
  @AtOnce('directory list', 4, 12)
  async list(
    @Param('kind', { schema: Word }) kind: string,
    @Query({ schema: ScimQuery }) query: ScimQuery,
    @Req() { feed }: ScimRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ScimResource> {
    response.type(scimType);
    return this.scim.list(feed, kindAt(kind), query);
  }

  /** The same list, asked for in a body, so that what is sought stands in no log [RFC 7644 3.4.3]. */
  @Post(':kind/.search')
  @HttpCode(200)
  @Answers(ScimAnswer)
  @Takes(MB, 'scim')
  @AtOnce('directory list', 4, 12)
  async search(
    @Param('kind', { schema: Word }) kind: string,
    @Body({ schema: Search }) query: z.infer<typeof Search>,
    @Req() { feed }: ScimRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ScimResource> {
    response.type(scimType);
    return this.scim.list(feed, kindAt(kind), query as ScimQuery);
  }

  @Get(':kind/:id')
  @Answers(ScimAnswer)
  async one(
    @Param('kind', { schema: Word }) kind: string,
    @Param('id', { schema: Id }) id: string,
    @Query({ schema: ScimQuery }) query: ScimQuery,
    @Req() request: ScimRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ScimResource | undefined> {
    const shown = await this.scim.one(request.feed, kindAt(kind), id, query);
    if (request.headers['if-none-match'] === shown.version) {
      response.status(304);
      return undefined;
    }
    return answered(response, shown);
  }

  @Post(':kind')
  @Answers(ScimAnswer, 201)
  @Takes(4 * MB, 'scim')
  async create(
    @Param('kind', { schema: Word }) kind: string,
    @Body({ schema: Sent }) sent: object,
    @Query({ schema: ScimQuery }) query: ScimQuery,
    @Req() { feed }: ScimRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ScimResource> {
    const shown = await this.scim.create(feed, kindAt(kind), sent, query);
    response.location(
      (shown.resource.meta as { location?: string } | undefined)?.location ?? `${this.scim.base}/${kind}/${String(shown.resource.id)}`,
    );
    return answered(response, shown);
  }

  @Put(':kind/:id')
  @Answers(ScimAnswer)
  @Takes(4 * MB, 'scim')
  async replace(
    @Param('kind', { schema: Word }) kind: string,
    @Param('id', { schema: Id }) id: string,
    @Body({ schema: Sent }) sent: object,
    @Query({ schema: ScimQuery }) query: ScimQuery,
    @Req() { feed, headers }: ScimRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ScimResource> {
    return answered(response, await this.scim.replace(feed, kindAt(kind), id, sent, headers['if-match'], query));
  }

  @Patch(':kind/:id')
  @Answers(ScimAnswer)
  @Takes(4 * MB, 'scim')
  async patch(
    @Param('kind', { schema: Word }) kind: string,
    @Param('id', { schema: Id }) id: string,
    @Body({ schema: PatchBody }) { operations }: z.infer<typeof PatchBody>,
    @Query({ schema: ScimQuery }) query: ScimQuery,
    @Req() { feed, headers }: ScimRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ScimResource> {
    return answered(response, await this.scim.patch(feed, kindAt(kind), id, operations as PatchOperation[], headers['if-match'], query));
  }

  @Delete(':kind/:id')
  @AnswersNothing()
  @HttpCode(204)
  async remove(
    @Param('kind', { schema: Word }) kind: string,
    @Param('id', { schema: Id }) id: string,
    @Req() { feed, headers }: ScimRequest,
  ): Promise<void> {
    await this.scim.remove(feed, kindAt(kind), id, headers['if-match']);
  }

  /** What is nowhere is told in the form of the standard too. */
  @All('*path')
  @ApiExcludeEndpoint()
  nothing(): never {
    throw new ProblemError(404, 'Not found', 'There is nothing at this address.');
  }
}

function answered(response: Response, { resource, version }: Shown): ScimResource {
  response.type(scimType).setHeader('etag', version);
  return resource;
}

/** A list of descriptions; they are not filtered [RFC 7644 4]. */
function described(request: ScimRequest, response: Response, list: readonly object[]): object {
  if (request.query.filter !== undefined) throw new ProblemError(403, 'Not done', 'These lists are not filtered.');
  response.type(scimType);
  return {
    schemas: ['urn:ietf:params:scim:api:messages:2.0:ListResponse'],
    ...{ totalResults: list.length, startIndex: 1, itemsPerPage: list.length, Resources: list },
  };
}
function oneOf(response: Response, list: readonly { id: string }[], id: string): object {
  const found = list.find((each) => each.id.toLowerCase() === id.toLowerCase());
  if (!found) throw new ProblemError(404, 'Not found', `There is nothing described as “${id.slice(0, 120)}”.`);
  response.type(scimType);
  return found;
}
