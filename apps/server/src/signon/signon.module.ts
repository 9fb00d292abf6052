import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { EstateModule } from '../estate/estate.module.js';
import { SignonController } from './signon.controller.js';

/** The sign-on to what people open: recordings, rules, what shortcuts save. */
@Module({
  imports: [CrossingModule, EstateModule],
  controllers: [SignonController],
})
export class SignonModule {}
