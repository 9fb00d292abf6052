import { Controller, Get, Param, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { CheckGreeting } from '@underpass/contracts';
import type { Request } from 'express';
import { z } from 'zod';
import { TrustedProxies } from '../edge/address.js';
import { ProblemError } from '../problems/problem.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Public } from '../signin/session.guard.js';
import { Doorway } from './doorway.js';
import { CheckLinkService } from './checkLink.service.js';
import { Answers } from '../edge/answers.js';

const CheckToken = z.string().regex(/^[A-Za-z0-9_-]{20,60}$/, 'This link is not whole. Copy all of it.');
/** Wrong tokens of an address that are logged a minute: a flood tells no more than its beginning. */
const mostLogged = 30;

@ApiTags('field check')
@Public()
@Controller('check')
export class CheckController {
  private readonly doorway = new Doorway(60_000, Infinity, mostLogged, () => Date.now());

  constructor(
    private readonly links: CheckLinkService,
    private readonly log: SecurityLog,
    private readonly proxies: TrustedProxies,
  ) {}

  /** What the page says before it starts. Names only: nothing that opens anything. */
  @Get(':token')
  @Answers(CheckGreeting)
  async greet(@Param('token', { schema: CheckToken }) token: string, @Req() request: Request): Promise<CheckGreeting> {
    try {
      return await this.links.greeting(token);
    } catch (error) {
      const address = this.proxies.addressOf(request);
      if (error instanceof ProblemError && error.getStatus() === 404 && !this.doorway.wrong(address))
        await this.log.record('token refused', { address });
      throw error;
    }
  }
}
