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
import { FeedRows } from './feeds/feedRows.js';
import { FeedService } from './feeds/feed.service.js';
import { BatchesController } from './enrol/batches.controller.js';
import { EnrolController } from './enrol/enrol.controller.js';
import { EnrolService } from './enrol/enrol.service.js';
import { GatewayController } from './gateway/gateway.controller.js';
import { LdapService } from './ldap/ldap.service.js';
import { LdapFeedsController } from './ldap/ldapFeeds.controller.js';
import { ScimController } from './scim/scim.controller.js';
import { ScimService } from './scim/scim.service.js';
import { ScimFeedsController } from './scim/scimFeeds.controller.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { ListsService } from './lists.service.js';

/** What comes into the estate from elsewhere, and what is known of it. */
@Module({
  imports: [EstateModule, CrossingModule, EvidenceModule, JobsModule, SecurityLogModule],
  controllers: [
    IntakeController,
    GapsController,
    OneController,
    SourcesController,
    TemplatesController,
    ScimController,
    ScimFeedsController,
    LdapFeedsController,
    BatchesController,
    EnrolController,
    GatewayController,
  ],
  providers: [ListsService, InboxService, FeedRows, FeedService, ScimService, LdapService, EnrolService],
})
export class IntakeModule {}
