import {
  Body,
  Controller,
  Get,
  Header,
  HttpCode,
  Injectable,
  Param,
  Post,
  Req,
  Res,
  UseGuards,
  type CanActivate,
  type ExecutionContext,
} from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { DeviceReport, ReportTaken } from '@underpass/contracts';
import { objectScript, shellScript } from '@underpass/core';
import type { Request, Response } from 'express';
import { TrustedProxies } from '../../edge/address.js';
import { Answers, AnswersFile } from '../../edge/answers.js';
import { PublicOrigin } from '../../edge/publicOrigin.js';
import { kB, Takes } from '../../edge/takes.js';
import { ProblemError } from '../../problems/problem.js';
import { Public } from '../../signin/session.guard.js';
import { EnrolService, type Batch } from './enrol.service.js';

interface EnrolRequest extends Request {
  batch: Batch;
}

/** Devices come with the key of their batch, in the address: it is looked at before anything else. */
@Injectable()
export class EnrolGuard implements CanActivate {
  constructor(private readonly enrol: EnrolService) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<EnrolRequest>();
    const { key } = request.params;
    if (typeof key !== 'string' || !/^[A-Za-z0-9_-]{20,64}$/.test(key)) throw new ProblemError(404, 'Not found', 'This key is not good.');
    request.batch = await this.enrol.batchOf(key);
    return true;
  }
}

/** What devices fetch and send: a script that reads what the system shows, and what it tells. */
@ApiTags('enrolment')
@Controller('enrol/:key')
@Public()
@UseGuards(EnrolGuard)
export class EnrolController {
  constructor(
    private readonly enrol: EnrolService,
    private readonly origin: PublicOrigin,
    private readonly proxies: TrustedProxies,
  ) {}

  /** The script for a POSIX shell. */
  @Get('report.sh')
  @AnswersFile('text/x-shellscript')
  @Header('content-type', 'text/x-shellscript; charset=utf-8')
  shell(@Param('key') key: string): string {
    return shellScript(`${this.origin.url()}/enrol/${key}/report`);
  }

  /** The same for systems whose shell hands on objects. */
  @Get('report.ps1')
  @AnswersFile('text/plain')
  @Header('content-type', 'text/plain; charset=utf-8')
  objects(@Param('key') key: string): string {
    return objectScript(`${this.origin.url()}/enrol/${key}/report`);
  }

  /** What a device is. Known ones are brought up to date; others wait until somebody takes them in. */
  @Post('report')
  @HttpCode(200)
  @Answers(ReportTaken)
  @Takes(128 * kB)
  async report(
    @Body({ schema: DeviceReport }) report: DeviceReport,
    @Req() request: EnrolRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ReportTaken | string> {
    const taken = await this.enrol.take(request.batch, report, this.proxies.addressOf(request));
    if (request.headers.accept !== 'text/plain') return taken;
    // on the device it is read by people
    response.type('text/plain');
    return taken.text;
  }
}
