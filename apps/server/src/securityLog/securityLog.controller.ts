import { Controller, Get, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { SecurityExportQuery, SecurityLogQuery, SecurityEvent } from '@underpass/contracts';
import type { Response } from 'express';
import { hostname } from 'node:os';
import { AtOnce } from '../edge/takes.js';
import { SecurityLog } from './securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../signin/session.guard.js';
import { Answers, AnswersFile } from '../edge/answers.js';

const mostExported = 100_000;

/** What happened at the doors; for administrators only. */
@ApiTags('session')
@Needs('admin')
@Controller('security-log')
export class SecurityLogController {
  constructor(private readonly log: SecurityLog) {}

  @Get()
  @Answers(SecurityEvent.array())
  list(@Query({ schema: SecurityLogQuery }) { before, limit }: SecurityLogQuery): Promise<SecurityEvent[]> {
    return this.log.list(before, limit);
  }

  /** The log as a file: JSON, or lines of the syslog protocol. */
  @Get('export')
  @AnswersFile('application/json', 'text/plain')
  @Confirmed()
  @AtOnce('export', 1, 2)
  async export(
    @Query({ schema: SecurityExportQuery }) { format }: SecurityExportQuery,
    @Req() request: SignedRequest,
    @Res() response: Response,
  ): Promise<void> {
    await this.log.recordOf('exported', request, `the security log as ${format}`);
    if (format === 'syslog')
      response
        .type('text/plain')
        .attachment('security.log')
        .send(await this.log.syslog(mostExported, hostname()));
    else
      response
        .type('application/json')
        .attachment('security.json')
        .send(JSON.stringify(await this.log.list(undefined, mostExported)));
  }
}
