import { Module } from '@nestjs/common';
import { SecurityLogController } from './securityLog.controller.js';
import { SecurityLog } from './securityLog.service.js';

/** What happened at the doors, for people and for machines. */
@Module({
  controllers: [SecurityLogController],
  providers: [SecurityLog],
  exports: [SecurityLog],
})
export class SecurityLogModule {}
