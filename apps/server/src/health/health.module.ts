import { Module } from '@nestjs/common';
import { CrossingModule } from '../crossing/crossing.module.js';
import { EstateModule } from '../estate/estate.module.js';
import { EvidenceModule } from '../evidence/evidence.module.js';
import { HealthController } from './health.controller.js';
import { MetricsService } from './metrics.service.js';

/** How the server does. */
@Module({
  imports: [CrossingModule, EstateModule, EvidenceModule],
  controllers: [HealthController],
  providers: [MetricsService],
})
export class HealthModule {}
