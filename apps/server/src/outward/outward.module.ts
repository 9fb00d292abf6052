import { Global, Module } from '@nestjs/common';
import { CONFIG, type Config } from '../config.js';
import { AllowedTargets } from './targets.js';

/** Connections that go out because somebody gave an address. */
@Global()
@Module({
  providers: [{ provide: AllowedTargets, useFactory: (config: Config) => new AllowedTargets(config.allowedTargets), inject: [CONFIG] }],
  exports: [AllowedTargets],
})
export class OutwardModule {}
