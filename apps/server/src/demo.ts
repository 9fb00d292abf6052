import { Inject, Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { CONFIG, type Config } from './config.js';
import { SessionService } from './session/session.service.js';
import { ownName } from './estate/change.service.js';
import { EstateStore } from './estate/estate.store.js';
import { ImportService } from './estate/import.service.js';

/** Sign-ins of the demo estate. They are told at the start of the demo and are nobody's secret. */
export const demoPassword = 'under-the-estuary';
const demoUsers = [
  ['ines.farrow@saltmarsh.example', 'Ines Farrow', 'engineer'],
  ['reader@saltmarsh.example', 'Wyn Ashby', 'reader'],
  ['admin@saltmarsh.example', 'Selma Thorne', 'admin'],
] as const;

/** Makes the first administrator where one is named, and loads the demo estate once, through the importer that people use. */
@Injectable()
export class DemoLoader implements OnApplicationBootstrap {
  private readonly logger = new Logger('demo');

  constructor(
    private readonly store: EstateStore,
    private readonly imports: ImportService,
    private readonly sessions: SessionService,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const { firstAdmin } = this.config;
    if (firstAdmin && (await this.sessions.users()).length === 0)
      await this.sessions.ensureUser(firstAdmin.email, 'Administrator', 'admin', firstAdmin.password);
    const folder = this.config.demoFolder;
    if (!folder || this.store.count('organisation') > 0) return;
    for (const [email, name, role] of demoUsers) await this.sessions.ensureUser(email, name, role, demoPassword);
    const files = Object.fromEntries(
      readdirSync(folder)
        .filter((name) => /\.(csv|ya?ml)$/.test(name))
        .map((name) => [name, readFileSync(join(folder, name), 'utf8')]),
    );
    const job = await this.imports.now(files, ownName, 'Demo estate loaded');
    if (job.state !== 'applied') this.logger.error(`the demo estate was not loaded: ${JSON.stringify(job.result?.rejected.slice(0, 5))}`);
  }
}
