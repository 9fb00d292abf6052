import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { SigninModule } from '../signin/signin.module.js';
import { EventsController } from './events.controller.js';

/** What the pages are told as it happens. */
@Module({
  imports: [CrossingModule, SigninModule],
  controllers: [EventsController],
})
export class EventsModule {}
