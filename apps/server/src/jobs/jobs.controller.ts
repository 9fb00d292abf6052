import { Controller, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { JobView } from '@underpass/contracts';
import { z } from 'zod';
import { ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { JobsService } from './jobs.service.js';
import { Answers } from '../edge/answers.js';

const Uuid = z.uuid();

@ApiTags('jobs')
@Controller('jobs')
export class JobsController {
  constructor(private readonly jobs: JobsService) {}

  /** The latest long work of everybody, newest first. */
  @Get()
  @Answers(JobView.array())
  latest(): Promise<JobView[]> {
    return this.jobs.latest();
  }

  /** What a list came to has cells of it, which are nobody's but whose list it is: others see how far it is. */
  @Get(':id')
  @Answers(JobView)
  async one(@Param('id', { schema: Uuid }) id: string, @Req() { user }: SignedRequest): Promise<JobView> {
    const job = await this.jobs.one(id);
    return job.kind === 'list' && job.by !== user.name ? { ...job, result: null } : job;
  }

  /** Calls work off: one's own, and who may change the estate also what others asked for. */
  @Post(':id/cancel')
  @Answers(JobView)
  @HttpCode(200)
  @Needs('reader')
  async cancel(@Param('id', { schema: Uuid }) id: string, @Req() { user }: SignedRequest): Promise<JobView> {
    if (user.role === 'reader' && (await this.jobs.one(id)).by !== user.name)
      throw new ProblemError(403, 'Not allowed', 'Somebody else asked for this work.');
    return this.jobs.cancel(id);
  }
}
