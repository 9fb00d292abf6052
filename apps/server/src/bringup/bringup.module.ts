import { Module } from '@nestjs/common';
import { EstateModule } from '../estate/estate.module.js';
import { BringupController } from './bringup.controller.js';
import { BringupService } from './bringup.service.js';

/** From a bare device to its first sign-in. */
@Module({
  imports: [EstateModule],
  controllers: [BringupController],
  providers: [BringupService],
})
export class BringupModule {}
