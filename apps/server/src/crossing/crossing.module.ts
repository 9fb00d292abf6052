import { Module } from '@nestjs/common';
import { EstateModule } from '../estate/estate.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { CrossingListController } from './crossingList.controller.js';
import { CrossingController } from './crossing.controller.js';
import { ResultsService } from './results.service.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { ImpactWork } from './impactWork.js';
import { CrossingListExport } from './listExport.js';
import { CrossingListing } from './listing.js';

/** Crossings evaluated, tallied and told. */
@Module({
  imports: [EstateModule, JobsModule, SecurityLogModule],
  controllers: [CrossingListController, CrossingController],
  providers: [ResultsService, ImpactWork, CrossingListing, CrossingListExport],
  exports: [ResultsService, ImpactWork],
})
export class CrossingModule {}
