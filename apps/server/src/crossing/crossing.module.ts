import { Module } from '@nestjs/common';
import { EstateModule } from '../estate/estate.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { CrossingController } from './crossing.controller.js';
import { ResultsService } from './results.service.js';
import { ImpactWork } from './impactWork.js';

/** Crossings evaluated, tallied and told. */
@Module({
  imports: [EstateModule, JobsModule],
  controllers: [CrossingController],
  providers: [ResultsService, ImpactWork],
  exports: [ResultsService, ImpactWork],
})
export class CrossingModule {}
