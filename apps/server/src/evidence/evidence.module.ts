import { Module } from '@nestjs/common';
import { EstateModule } from '../estate/estate.module.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { CheckLinksController } from './checkLinks.controller.js';
import { CheckController } from './check.controller.js';
import { CheckLinkService } from './checkLink.service.js';
import { CheckGateway } from './check.gateway.js';

/** Field checks and measurements. */
@Module({
  imports: [EstateModule, SecurityLogModule],
  controllers: [CheckLinksController, CheckController],
  providers: [CheckLinkService, CheckGateway],
  exports: [CheckGateway, CheckLinkService],
})
export class EvidenceModule {}
