import { Controller, Get, Inject, Req, Res } from '@nestjs/common';
import { Lives, Ready } from '@underpass/contracts';
import { ApiTags } from '@nestjs/swagger';
import { InjectDataSource } from '@nestjs/typeorm';
import type { Request, Response } from 'express';
import { statfs } from 'node:fs/promises';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { EstateStore } from '../estate/estate.store.js';
import { ProblemError } from '../problems/problem.js';
import { equal } from '../secrets/secrets.js';
import { Public } from '../signin/session.guard.js';
import { MetricsService } from './metrics.service.js';
import { Answers, AnswersFile } from '../edge/answers.js';

/** Room on the disk below which writing may soon fail, bytes. */
const leastRoom = 200 * 1024 * 1024;

/** For those who watch the server: whether it lives, whether it can work, and figures. */
@ApiTags('health')
@Public()
@Controller()
export class HealthController {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly metrics: MetricsService,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  @Get('health')
  @Answers(Lives)
  health(): { state: 'lives' } {
    return { state: 'lives' };
  }

  /** Whether requests can be served: by part, without details of the inside. */
  @Get('ready')
  @Answers(Ready)
  async ready(@Res() response: Response): Promise<void> {
    const parts = await (this.looked && this.looked.until > Date.now() ? this.looked.parts : this.look());
    const ready = Object.values(parts).every(Boolean);
    response
      .status(ready ? 200 : 503)
      .type('application/json')
      .send(JSON.stringify({ state: ready ? 'ready' : 'not ready', parts }));
  }

  /** However often it is asked, the database is asked once a second. */
  private looked: { parts: Promise<Record<string, boolean>>; until: number } | null = null;
  private look(): Promise<Record<string, boolean>> {
    const parts = this.parts();
    this.looked = { parts, until: Date.now() + 1000 };
    return parts;
  }

  private async parts(): Promise<Record<string, boolean>> {
    return {
      database: await this.good(async () => {
        await this.data.query('SELECT 1');
        return true;
      }),
      migrations: await this.good(async () => !(await this.data.showMigrations())),
      following: this.store.follows,
      disk: await this.good(async () => {
        const { bavail, bsize } = await statfs('.');
        return bavail * bsize > leastRoom;
      }),
    };
  }

  private async good(ask: () => Promise<boolean>): Promise<boolean> {
    try {
      return await ask();
    } catch {
      return false;
    }
  }

  @Get('metrics')
  @AnswersFile('text/plain')
  async figures(@Req() request: Request, @Res() response: Response): Promise<void> {
    const given = /^Bearer (.{1,500})$/.exec(request.headers.authorization ?? '')?.[1];
    if (this.config.metricsToken === null || given === undefined || !equal(given, this.config.metricsToken))
      throw new ProblemError(401, 'Not signed in', 'This is for whoever comes with the token of the metrics.');
    const { type, body } = await this.metrics.text();
    response.setHeader('content-type', type);
    response.send(body);
  }
}
