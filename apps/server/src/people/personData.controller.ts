import { Controller, Delete, Get, HttpCode, Param, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Key, PersonKept } from '@underpass/contracts';
import { ResultsService } from '../crossing/results.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../signin/session.guard.js';
import { PersonDataService } from './personData.service.js';
import { Answers, AnswersNothing } from '../edge/answers.js';

/** What is kept about one person, shown or erased at their request. */
@ApiTags('people')
@Needs('admin')
@Confirmed()
@Controller('people/:id/data')
export class PersonDataController {
  constructor(
    private readonly people: PersonDataService,
    private readonly results: ResultsService,
    private readonly log: SecurityLog,
  ) {}

  @Get()
  @Answers(PersonKept)
  async show(@Param('id', { schema: Key }) id: string, @Req() request: SignedRequest): Promise<Record<string, unknown>> {
    const shown = await this.people.shown(id);
    await this.log.recordOf('person shown', request, id);
    return shown;
  }

  @Delete()
  @AnswersNothing()
  @HttpCode(204)
  async erase(@Param('id', { schema: Key }) id: string, @Req() request: SignedRequest): Promise<void> {
    await this.people.erase(id, request.user.name);
    await this.log.recordOf('person erased', request);
    await this.results.settled();
  }
}
