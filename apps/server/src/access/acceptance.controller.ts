import { Body, Controller, Get, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { AcceptanceQuery, Key, SeenRequest, AcceptanceView, AcceptancePlanView, ImpactRequest } from '@underpass/contracts';
import { z } from 'zod';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { AcceptanceService } from './acceptance.service.js';
import { Answers } from '../edge/answers.js';
import { ResultsService } from '../crossing/results.service.js';
import { AtOnce, kB, MB, Takes } from '../edge/takes.js';
import { PaperService } from '../estate/paper.service.js';

const Uuid = z.uuid();

@ApiTags('access')
@Controller('access/acceptance')
export class AcceptanceController {
  constructor(
    private readonly acceptance: AcceptanceService,
    private readonly results: ResultsService,
    private readonly paper: PaperService,
  ) {}

  @Get()
  @Answers(AcceptanceView)
  view(@Query({ schema: AcceptanceQuery }) { run }: AcceptanceQuery): Promise<AcceptanceView> {
    return this.acceptance.view(run);
  }

  /** Who would have to look after a change; nothing is applied. */
  @Post('on-paper')
  @Answers(AcceptancePlanView)
  @Takes(MB)
  @HttpCode(200)
  @Needs('reader')
  @AtOnce('acceptance on paper', 1, 2)
  onPaper(@Body({ schema: ImpactRequest }) { change }: ImpactRequest): AcceptancePlanView {
    this.paper.assertGood(change);
    return this.acceptance.planView(this.results.reader.after(change).model);
  }

  @Post()
  @Answers(AcceptanceView, 201)
  async start(@Req() request: SignedRequest): Promise<AcceptanceView> {
    await this.acceptance.start(request.user.name);
    return this.acceptance.view();
  }

  @Put(':id/testers/:person')
  @Answers(AcceptanceView)
  @Takes(128 * kB)
  async enter(
    @Param('id', { schema: Uuid }) id: string,
    @Param('person', { schema: Key }) person: string,
    @Body({ schema: SeenRequest }) body: SeenRequest,
    @Req() request: SignedRequest,
  ): Promise<AcceptanceView> {
    await this.acceptance.enter(id, person, body, request.user.name);
    return this.acceptance.view(id);
  }

  @Post(':id/sign-off')
  @Answers(AcceptanceView)
  @HttpCode(200)
  async signOff(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<AcceptanceView> {
    await this.acceptance.signOff(id, request.user.name);
    return this.acceptance.view(id);
  }
}
