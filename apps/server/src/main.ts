import 'reflect-metadata';
import { Logger } from '@nestjs/common';
import { fileURLToPath } from 'node:url';
import { setFlagsFromString } from 'node:v8';
import { createApplication } from './application.js';
import { readConfig, remarksOn } from './config.js';
import { surviveFailures } from './problems/lastResort.js';

// what is let go of is collected before it is as much again as what is held: a large estate stays within 0.6 GB
setFlagsFromString('--heap-growing-percent=60');
const logger = new Logger('start');
try {
  const config = readConfig(process.env);
  const pages = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const app = await createApplication(config, pages);
  await app.listen(config.port, config.host);
  for (const remark of remarksOn(config, process.env)) logger.warn(remark);
  surviveFailures(process);
  // who started this server is gone: nobody would stop it any more
  const end = () => process.exit(0);
  process.once('disconnect', () => {
    app.close().then(end, end);
  });
  process.send?.({ ready: true, port: config.port });
} catch (error) {
  // an estate that could not be read, a port in use, a wrong setting: one line, and the way out
  process.stderr.write(`Underpass could not start: ${(error as Error).message || String(error)}\n`);
  process.exit(1);
}
