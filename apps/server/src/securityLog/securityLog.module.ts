import { Module } from '@nestjs/common';
import { JobsModule } from '../jobs/jobs.module.js';
import { SecurityLogController } from './securityLog.controller.js';
import { SecurityLog } from './securityLog.service.js';

/** What happened at the doors, for people and for machines. */
@Module({
  imports: [JobsModule],
  controllers: [SecurityLogController],
  providers: [SecurityLog],
  exports: [SecurityLog],
})
export class SecurityLogModule {}
