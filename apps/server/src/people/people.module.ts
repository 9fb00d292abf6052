import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { EstateModule } from '../estate/estate.module.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { SigninModule } from '../signin/signin.module.js';
import { PersonDataController } from './personData.controller.js';
import { PersonDataService } from './personData.service.js';
import { RetentionService } from './retention.service.js';

/** What is kept about people, shown, erased and let go of. */
@Module({
  imports: [CrossingModule, EstateModule, SecurityLogModule, SigninModule],
  controllers: [PersonDataController],
  providers: [PersonDataService, RetentionService],
})
export class PeopleModule {}
