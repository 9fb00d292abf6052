import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { EstateModule } from '../estate/estate.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { EvidenceModule } from '../evidence/evidence.module.js';
import { GapsController } from './gaps.controller.js';
import { InboxService } from './inbox.service.js';
import { IntakeController } from './intake.controller.js';
import { OneController } from './one.controller.js';
import { SourcesController } from './sources.controller.js';
import { TemplatesController } from './templates.controller.js';
import { ListsService } from './lists.service.js';

/** What comes into the estate from elsewhere, and what is known of it. */
@Module({
  imports: [EstateModule, CrossingModule, EvidenceModule, JobsModule],
  controllers: [IntakeController, GapsController, OneController, SourcesController, TemplatesController],
  providers: [ListsService, InboxService],
})
export class IntakeModule {}
