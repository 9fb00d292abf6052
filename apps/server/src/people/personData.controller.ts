import { Controller, Delete, Get, HttpCode, Inject, Param, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Key } from '@underpass/contracts';
import { CONFIG, type Config } from '../config.js';
import { ResultsService } from '../crossing/results.service.js';
import { TrustedProxies } from '../edge/address.js';
import { SecurityLog } from '../session/securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../session/session.guard.js';
import { PersonDataService } from './personData.service.js';

/** What is kept about one person, shown or erased at their request. */
@ApiTags('people')
@Needs('admin')
@Confirmed()
@Controller('people/:id/data')
export class PersonDataController {
  private readonly proxies: TrustedProxies;

  constructor(
    private readonly people: PersonDataService,
    private readonly results: ResultsService,
    private readonly log: SecurityLog,
    @Inject(CONFIG) config: Config,
  ) {
    this.proxies = new TrustedProxies(config.trustedProxy);
  }

  @Get()
  async show(@Param('id', { schema: Key }) id: string, @Req() request: SignedRequest): Promise<Record<string, unknown>> {
    const shown = await this.people.shown(id);
    await this.log.record('person shown', { user: request.user, address: this.proxies.addressOf(request), about: id });
    return shown;
  }

  @Delete()
  @HttpCode(204)
  async erase(@Param('id', { schema: Key }) id: string, @Req() request: SignedRequest): Promise<void> {
    await this.people.erase(id, request.user.name);
    await this.log.record('person erased', { user: request.user, address: this.proxies.addressOf(request) });
    await this.results.settled();
  }
}
