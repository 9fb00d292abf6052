import 'reflect-metadata';
import { setPriority } from 'node:os';
import { NestFactory } from '@nestjs/core';
import { AppModule } from './app.module.js';
import { readConfig } from './config.js';
import { surviveFailures } from './problems/lastResort.js';

/** A process that takes up long work and answers no requests. As many as one likes may run. */
try {
  const config = { ...readConfig(process.env), role: 'worker' as const, jobs: 'here' as const };
  const app = await NestFactory.createApplicationContext(AppModule.with(config), {
    abortOnError: false,
    logger: config.logLevel === 'silent' ? false : ['error', 'warn'],
  });
  app.enableShutdownHooks();
  // whoever waits for an answer comes first
  setPriority(10);
  surviveFailures(process);
  // who started this worker is gone: nobody would stop it any more
  const end = () => process.exit(0);
  process.once('disconnect', () => {
    app.close().then(end, end);
  });
  process.send?.({ ready: true });
} catch (error) {
  process.stderr.write(`The worker could not start: ${(error as Error).message || String(error)}\n`);
  process.exit(1);
}
