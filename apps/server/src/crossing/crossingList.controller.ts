import { Body, Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { CrossingExportRequest, CrossingGroupQuery, CrossingGroups, CrossingPage, CrossingQuery, JobStarted } from '@underpass/contracts';
import type { Response } from 'express';
import { z } from 'zod';
import { Answers, AnswersFile } from '../edge/answers.js';
import { Exports } from '../jobs/exports.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../signin/session.guard.js';
import { CrossingListing } from './listing.js';

/** The list of crossings: by page, in groups, and as a table to take away. */
@ApiTags('crossing')
@Controller()
export class CrossingListController {
  constructor(
    private readonly listing: CrossingListing,
    private readonly exports: Exports,
    private readonly log: SecurityLog,
  ) {}

  @Get('crossings')
  @Answers(CrossingPage)
  list(@Query({ schema: CrossingQuery }) query: CrossingQuery): Promise<CrossingPage> {
    return this.listing.page(query);
  }

  /** The same in groups: by finding, by place or by resource. */
  @Get('crossings-groups')
  @Answers(CrossingGroups)
  groups(@Query({ schema: CrossingGroupQuery }) query: CrossingGroupQuery): Promise<CrossingGroups> {
    return this.listing.groups(query);
  }

  /** Asks for the list as a table, as it is filtered and sorted. Follow the job, then fetch the file. */
  @Post('crossings-exports')
  @Answers(JobStarted, 202)
  @HttpCode(202)
  @Needs('engineer')
  @Confirmed()
  async export(
    @Body({ schema: CrossingExportRequest.prefault({}) }) body: CrossingExportRequest,
    @Req() request: SignedRequest,
  ): Promise<JobStarted> {
    const job = await this.exports.start('crossings export', 'Export of the crossings', request.user.name, body);
    await this.log.recordOf('exported', request, 'the list of crossings');
    return { job };
  }

  /** The file of an export that is done, for an hour. */
  @Get('crossings-exports/:id')
  @AnswersFile('text/csv')
  @Needs('engineer')
  @Confirmed()
  exported(@Param('id', { schema: z.uuid() }) id: string, @Res() response: Response): Promise<void> {
    return this.exports.send('crossings export', id, response);
  }
}
