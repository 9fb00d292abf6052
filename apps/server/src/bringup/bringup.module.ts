import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { EstateModule } from '../estate/estate.module.js';
import { BringupController } from './bringup.controller.js';
import { BringupService } from './bringup.service.js';
import { DeskService } from './desk.service.js';
import { FirmwareController } from './firmware.controller.js';
import { FirmwareFiles } from './firmwareFiles.service.js';
import { PreparingController } from './preparing.controller.js';
import { PublishedController } from './published.controller.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { JoiningService } from './joining.service.js';
import { PublishService } from './publish.service.js';
import { ReportService } from './report.service.js';

/** From a bare device to its first sign-in. */
@Module({
  imports: [CrossingModule, EstateModule, SecurityLogModule],
  controllers: [BringupController, FirmwareController, PreparingController, PublishedController],
  providers: [BringupService, PublishService, ReportService, JoiningService, FirmwareFiles, DeskService],
})
export class BringupModule {}
