import { Body, Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { JobStarted, SecurityExport, SecurityLogQuery, SecurityEvent } from '@underpass/contracts';
import type { Response } from 'express';
import { hostname } from 'node:os';
import { z } from 'zod';
import { Exports } from '../jobs/exports.service.js';
import { SecurityLog } from './securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../signin/session.guard.js';
import { Answers, AnswersFile } from '../edge/answers.js';

const mostExported = 100_000;

/** What happened at the doors; for administrators only. */
@ApiTags('session')
@Needs('admin')
@Controller('security-log')
export class SecurityLogController {
  constructor(
    private readonly log: SecurityLog,
    private readonly exports: Exports,
  ) {
    exports.takes('log export', async (request, progress) => {
      const { format } = SecurityExport.parse(request);
      progress.at('writing the log', 0, 1);
      return format === 'syslog'
        ? { name: 'security.log', media: 'text/plain', content: Buffer.from(await log.syslog(mostExported, hostname())) }
        : {
            name: 'security.json',
            media: 'application/json',
            content: Buffer.from(JSON.stringify(await log.list(undefined, mostExported))),
          };
    });
  }

  @Get()
  @Answers(SecurityEvent.array())
  list(@Query({ schema: SecurityLogQuery }) { before, limit }: SecurityLogQuery): Promise<SecurityEvent[]> {
    return this.log.list(before, limit);
  }

  /** Asks for the log as a file: JSON, or lines of the syslog protocol. Follow the job, then fetch the file. */
  @Post('exports')
  @Answers(JobStarted, 202)
  @HttpCode(202)
  @Confirmed()
  async export(@Body({ schema: SecurityExport }) { format }: SecurityExport, @Req() request: SignedRequest): Promise<JobStarted> {
    const job = await this.exports.start('log export', 'Export of the log of the doors', request.user.name, { format });
    await this.log.recordOf('exported', request, `the security log as ${format}`);
    return { job };
  }

  /** The file of an export that is done, for an hour. */
  @Get('exports/:id')
  @AnswersFile('application/json', 'text/plain')
  @Confirmed()
  exported(@Param('id', { schema: z.uuid() }) id: string, @Res() response: Response): Promise<void> {
    return this.exports.send('log export', id, response);
  }
}
