import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { EstateModule } from '../estate/estate.module.js';
import { DraftsController } from './drafts.controller.js';
import { DraftsService } from './drafts.service.js';
import { RedirectionController } from './redirection.controller.js';
import { SettingsController } from './settings.controller.js';
import { SettingsService } from './settings.service.js';

/** Settings in force, drafts of them, and what is carried of the desk. */
@Module({
  imports: [CrossingModule, EstateModule],
  controllers: [SettingsController, RedirectionController, DraftsController],
  providers: [SettingsService, DraftsService],
})
export class SettingsModule {}
