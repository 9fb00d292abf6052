import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { EstateModule } from '../estate/estate.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { SeesController } from './sees.controller.js';
import { GuestsController } from './guests.controller.js';
import { AcceptanceController } from './acceptance.controller.js';
import { EntryLinksController } from './entryLinks.controller.js';
import { OpenLinkController } from './openLink.controller.js';
import { RequirementsController } from './requirements.controller.js';
import { PortalController } from './portal.controller.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { PeopleExport } from './peopleExport.js';
import { PeopleListing } from './peopleListing.js';
import { SightingService } from './sighting.service.js';
import { ConsequenceService } from './consequence.service.js';
import { AcceptanceService } from './acceptance.service.js';
import { EntryLinkService } from './entryLink.service.js';

/** Who sees what, and how they get in. */
@Module({
  imports: [CrossingModule, EstateModule, JobsModule, SecurityLogModule],
  controllers: [
    SeesController,
    GuestsController,
    AcceptanceController,
    EntryLinksController,
    OpenLinkController,
    RequirementsController,
    PortalController,
  ],
  providers: [SightingService, ConsequenceService, AcceptanceService, EntryLinkService, PeopleListing, PeopleExport],
  exports: [AcceptanceService, EntryLinkService],
})
export class AccessModule {}
