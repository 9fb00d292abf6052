import { Module } from '@nestjs/common';
import { JobsController } from './jobs.controller.js';
import { JobsService } from './jobs.service.js';
import { JobRunner } from './jobs.runner.js';
import { Exports } from './exports.service.js';

/** Long work: the queue, who takes it up, how far it is. */
@Module({
  controllers: [JobsController],
  providers: [JobsService, JobRunner, Exports],
  exports: [JobsService, Exports],
})
export class JobsModule {}
