import 'reflect-metadata';
import { fileURLToPath } from 'node:url';
import { createApplication } from './application.js';
import { readConfig } from './config.js';

const config = readConfig(process.env);
const pages = fileURLToPath(new URL('../../web/dist', import.meta.url));
const app = await createApplication(config, pages);
await app.listen(config.port);
process.send?.({ ready: true, port: config.port });
