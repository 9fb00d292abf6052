import {
  Body,
  type CanActivate,
  Controller,
  type ExecutionContext,
  Get,
  Header,
  HttpCode,
  Inject,
  Injectable,
  Param,
  Post,
  Query,
  Req,
  Res,
  UseGuards,
} from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { BootReport, type ConfigFile } from '@underpass/contracts';
import { BootReader, sumOf } from '@underpass/core';
import { createHash, timingSafeEqual } from 'node:crypto';
import type { Request, Response } from 'express';
import { z } from 'zod';
import { CONFIG, type Config } from '../config.js';
import { Answers, AnswersFile, AnswersNothing } from '../edge/answers.js';
import { sendPart } from '../edge/sendPart.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Sealing } from '../secrets/sealing.service.js';
import { Public } from '../signin/session.guard.js';
import { FirmwareFiles } from './firmwareFiles.service.js';
import { ReportService } from './report.service.js';
import { readerOf } from './readerOf.js';

/** States of the estate whose files can still be fetched: a device that began with a list ends with the files of that list. */
const statesKept = 20;
const FileQuery = z.object({ version: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER) });
const digest = (text: string) => createHash('sha256').update(text).digest();

/** Devices come with the key they were given; without one configured nobody’s word is taken. */
@Injectable()
export class DeviceGuard implements CanActivate {
  constructor(@Inject(CONFIG) private readonly config: Config) {}

  canActivate(context: ExecutionContext): boolean {
    const given = context.switchToHttp().getRequest<Request>().headers['x-device-key'];
    const { deviceKey } = this.config;
    if (deviceKey === null || typeof given !== 'string' || !timingSafeEqual(digest(given), digest(deviceKey)))
      throw new ProblemError(401, 'Not signed in', 'This is for devices, which come with their key.');
    return true;
  }
}

/**
 * What devices fetch: a signed list of the files for one, and the files. They come without a sign-in, as devices do before anybody signs
 * in; nothing secret is in a file. A list names the state of the estate it is of, and files are fetched of that state.
 */
@ApiTags('published')
@Controller('published')
@Public()
export class PublishedController {
  private readonly states = new Map<number, BootReader>();

  constructor(
    private readonly store: EstateStore,
    private readonly sealing: Sealing,
    private readonly reports: ReportService,
    private readonly firmware: FirmwareFiles,
  ) {}

  /** The key that lists are signed with, in PEM. */
  @Get('key')
  @Header('content-type', 'text/plain; charset=utf-8')
  @Answers(z.string())
  key(): string {
    return this.sealing.publishedKey;
  }

  /** The list of a device: sum and name of each file in the order in which they are merged, then the firmware offered. */
  @Get(':endpoint/list')
  @Header('content-type', 'text/plain; charset=utf-8')
  @Header('cache-control', 'no-store')
  @Answers(z.string())
  async list(@Param('endpoint') endpoint: string): Promise<string> {
    const { version } = this.store;
    const text = await this.textOf(version, this.stateOf(version), endpoint);
    return `${text}# signed ${this.sealing.signature(text).toString('base64')}\n`;
  }

  /** A file of a list. */
  @Get(':endpoint/files/:file')
  @Header('content-type', 'text/plain; charset=utf-8')
  @Answers(z.string())
  file(
    @Param('endpoint') endpoint: string,
    @Param('file') id: string,
    @Query({ schema: FileQuery }) { version }: { version: number },
  ): string {
    const state = this.states.get(version);
    if (!state) throw new ProblemError(410, 'Gone', 'That list is old. Fetch the list anew.');
    const file = this.filesOf(state, endpoint).find((each) => each.id === id);
    if (!file) throw notFound('configFile', id);
    return file.text;
  }

  /** The bytes of firmware that is offered to a device, or the part that it asks for [RFC 9110 14]. */
  @Get(':endpoint/firmware/:file')
  @AnswersFile('application/octet-stream')
  async image(
    @Param('endpoint') endpoint: string,
    @Param('file') id: string,
    @Req() request: Request,
    @Res() response: Response,
  ): Promise<void> {
    const facts = readerOf(this.store.model).read(endpoint);
    const file = facts?.firmware.some((each) => each.id === id) ? (await this.firmware.whole()).get(id) : null;
    if (!file) throw notFound('firmware', id);
    await sendPart(request, response, { total: file.total, tag: file.sha256, bytes: (from, to) => this.firmware.bytes(id, from, to) });
  }

  /** What a device tells of its start; it comes with the key that devices were given. */
  @Post('reports')
  @HttpCode(204)
  @AnswersNothing()
  @UseGuards(DeviceGuard)
  async report(@Body({ schema: BootReport }) report: BootReport): Promise<void> {
    if (!this.store.find('endpoint', report.endpoint)) throw notFound('endpoint', report.endpoint);
    await this.reports.keep(report);
  }

  private stateOf(version: number): BootReader {
    let state = this.states.get(version);
    if (!state) {
      this.states.set(version, (state = readerOf(this.store.model)));
      for (const old of this.states.keys()) if (this.states.size > statesKept) this.states.delete(old);
    }
    return state;
  }

  private filesOf(state: BootReader, endpoint: string): readonly ConfigFile[] {
    const facts = state.read(endpoint);
    if (!facts) throw notFound('endpoint', endpoint);
    return facts.files;
  }

  private async textOf(version: number, state: BootReader, endpoint: string): Promise<string> {
    const facts = state.read(endpoint);
    if (!facts) throw notFound('endpoint', endpoint);
    // the sum of a file stands beside it where its bytes are here to be fetched
    const here = await this.firmware.whole();
    const firmware = facts.firmware.map(({ id, version: of, processor, sizeMB }) => {
      const sum = here.get(id)?.sha256;
      return `# firmware ${id} ${of} ${processor} ${sizeMB}${sum === undefined ? '' : ` ${sum}`}`;
    });
    return [
      `# list ${version} ${endpoint}`,
      ...facts.files.map((file) => `${(file.sha256 ?? sumOf(file)).toLowerCase()}  ${file.id}`),
      ...firmware,
      '',
    ].join('\n');
  }
}
