import { Module } from '@nestjs/common';
import { JobsModule } from '../jobs/jobs.module.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { EstateController } from './estate.controller.js';
import { SecretController } from './secret.controller.js';
import { FindController } from './find.controller.js';
import { EstateStore } from './estate.store.js';
import { ChangeService } from './change.service.js';
import { ChangeHistory } from './changeHistory.service.js';
import { PaperService } from './paper.service.js';
import { ImportService } from './import.service.js';
import { ExportService } from './export.service.js';
import { Listing } from './listing.js';

/** The estate: read, followed, changed, imported and exported. */
@Module({
  imports: [JobsModule, SecurityLogModule],
  controllers: [EstateController, SecretController, FindController],
  providers: [EstateStore, ChangeService, ChangeHistory, PaperService, ImportService, ExportService, Listing],
  exports: [EstateStore, ChangeService, ChangeHistory, PaperService, ImportService, Listing],
})
export class EstateModule {}
