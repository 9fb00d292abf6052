import { Global, Module } from '@nestjs/common';
import { Sealing } from './sealing.service.js';

/** What is kept sealed. */
@Global()
@Module({ providers: [Sealing], exports: [Sealing] })
export class SecretsModule {}
