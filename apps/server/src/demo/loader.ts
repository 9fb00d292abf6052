import { Inject, Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { CONFIG, type Config } from '../config.js';
import { ResultsService } from '../crossing/results.service.js';
import { UsersService } from '../signin/users.service.js';
import { ownName } from '../estate/changeHistory.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { ImportService } from '../estate/import.service.js';
import { DemoPast } from './pastLoader.js';

/** Sign-ins of the demo estate. They are told at the start of the demo and are nobody's secret. */
export const demoPassword = 'under-the-estuary';
const demoUsers = [
  ['ines.farrow@saltmarsh.example', 'Ines Farrow', 'engineer'],
  ['reader@saltmarsh.example', 'Wyn Ashby', 'reader'],
  ['admin@saltmarsh.example', 'Selma Thorne', 'admin'],
] as const;

const weekMs = 7 * 86_400_000;
const taken = /^(M\d+),(\d{4}-\d\d-\d\dT[\d:]+Z)/gm;

/**
 * The demo's measurements as if they had been taken lately: what is old weighs less, and the demo would fade. All by the same whole weeks,
 * so that day and hour stay.
 */
export function lately(csv: string, nowMs: number): string {
  const newest = Math.max(...[...csv.matchAll(taken)].map(([, , at]) => Date.parse(at as string)));
  const weeks = Math.floor((nowMs - newest) / weekMs);
  if (!(weeks > 0)) return csv;
  const later = (at: string) => new Date(Date.parse(at) + weeks * weekMs).toISOString().replace('.000Z', 'Z');
  return csv.replace(taken, (_, id: string, at: string) => `${id},${later(at)}`);
}

/** Makes the first administrator where one is named, and loads the demo estate once, through the importer that people use. */
@Injectable()
export class DemoLoader implements OnApplicationBootstrap {
  private readonly logger = new Logger('demo');

  constructor(
    private readonly store: EstateStore,
    private readonly imports: ImportService,
    private readonly users: UsersService,
    private readonly results: ResultsService,
    private readonly past: DemoPast,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    if (this.config.role === 'worker') return;
    await this.firstAdministrator();
    const folder = this.config.demoFolder;
    if (!folder) return this.users.endDemoSessions();
    if (!this.empty()) return;
    for (const [email, name, role] of demoUsers) await this.users.add(email, name, role, demoPassword, true);
    await this.load(folder);
    await this.results.settled();
    // without its past the demo is whole all the same
    if (this.config.demoPast)
      await this.past.load().catch((error: Error) => this.logger.error(`the past of the demo could not be made: ${error.message}`));
  }

  private async firstAdministrator(): Promise<void> {
    const { firstAdmin } = this.config;
    if (!firstAdmin) return;
    const others = (await this.users.list()).filter(({ email }) => !demoUsers.some(([demo]) => demo === email));
    if (others.length > 0) return this.logger.warn('FIRST_ADMIN is ignored: there are sign-ins already.');
    if (!(await this.users.add(firstAdmin.email, 'Administrator', 'admin', firstAdmin.password)))
      this.logger.warn(`FIRST_ADMIN is ignored: ${firstAdmin.email} is a sign-in of the demo. Name another address.`);
  }

  /** As the database says it: the store was read from it, and the import asks again under its lock. */
  private empty(): boolean {
    return this.store.version === 0;
  }

  private async load(folder: string): Promise<void> {
    const files = Object.fromEntries(
      readdirSync(folder)
        .filter((name) => /\.(csv|ya?ml)$/.test(name))
        .map((name) => [name, readFileSync(join(folder, name), 'utf8')]),
    );
    if (files['measurements.csv']) files['measurements.csv'] = lately(files['measurements.csv'], Date.now());
    const job = await this.imports.now(files, ownName, 'Demo estate loaded', () => this.empty());
    if (job.state !== 'applied') this.logger.error(`the demo estate was not loaded: ${JSON.stringify(job.result?.rejected.slice(0, 5))}`);
  }
}
