import { Body, Controller, Get, HttpCode, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  Applied,
  BringupBoot,
  BringupPlace,
  BringupPlaces,
  DeskAnswer,
  DeskKept,
  DeskRequest,
  DeskSessions,
  JoiningCard,
  Key,
  PublishPlan,
  PublishRequest,
  TelephoneFacts,
  TransferAnswer,
  TransferQuery,
} from '@underpass/contracts';
import { z } from 'zod';
import { Answers } from '../edge/answers.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { BringupService } from './bringup.service.js';
import { DeskService } from './desk.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { JoiningService } from './joining.service.js';
import { PublishService } from './publish.service.js';

const PlanQuery = z.object({ gateway: Key.optional() });

/** From a bare device to its first sign-in. */
@ApiTags('bringup')
@Controller('bringup')
export class BringupController {
  constructor(
    private readonly bringup: BringupService,
    private readonly publishing: PublishService,
    private readonly joiningCards: JoiningService,
    private readonly desks: DeskService,
    private readonly log: SecurityLog,
  ) {}

  /** Every place whose devices are described, with what stops them. */
  @Get()
  @Answers(BringupPlaces)
  places(): Promise<BringupPlaces> {
    return this.bringup.places();
  }

  /** The devices of a place, those that stop first. */
  @Get('places/:id')
  @Answers(BringupPlace)
  place(@Param('id') id: string): Promise<BringupPlace> {
    return this.bringup.place(id);
  }

  /** What somebody needs to join the Wi-Fi of a place; that its key was shown is in the log of the doors. */
  @Post('places/:id/joining')
  @Answers(JoiningCard)
  @HttpCode(200)
  @Needs('engineer')
  async joining(@Param('id') id: string, @Req() request: SignedRequest): Promise<JoiningCard> {
    const card = await this.joiningCards.of(id);
    await this.log.recordOf('secret shown', request, `joining card of location ${id}`);
    return card;
  }

  /** How what its devices will install comes to them over its line. */
  @Get('places/:id/transfer')
  @Answers(TransferAnswer)
  transfer(@Param('id') id: string, @Query({ schema: TransferQuery }) query: TransferQuery): TransferAnswer {
    return this.bringup.transfer(id, query);
  }

  /** The start of a device, step by step, with what it sent and received. */
  @Get('endpoints/:id')
  @Answers(BringupBoot)
  boot(@Param('id') id: string): Promise<BringupBoot> {
    return this.bringup.boot(id);
  }

  /** What is known of a device before somebody at it is asked by telephone. */
  @Get('endpoints/:id/telephone')
  @Answers(TelephoneFacts)
  telephone(@Param('id') id: string): TelephoneFacts {
    return this.bringup.telephone(id);
  }

  /** The screens on the desk of a device. */
  @Get('endpoints/:id/desk')
  @Answers(DeskAnswer)
  desk(@Param('id') id: string): DeskAnswer {
    return this.desks.desk(id);
  }

  /** What a session gets of screens as they might stand; nothing is written. */
  @Post('endpoints/:id/desk/sessions')
  @Answers(DeskSessions)
  @HttpCode(200)
  @Needs('reader')
  deskSessions(@Param('id') id: string, @Body({ schema: DeskRequest }) { screens }: DeskRequest): DeskSessions {
    return this.desks.sessions(id, screens);
  }

  /** Notes how the screens stand, as one change of the estate. */
  @Put('endpoints/:id/desk')
  @Answers(Applied)
  @Needs('engineer')
  keepDesk(@Param('id') id: string, @Body({ schema: DeskKept }) kept: DeskKept, @Req() request: SignedRequest): Promise<Applied> {
    return this.desks.keep(id, kept, request.user.name);
  }

  /** The configuration files that the settings of now come to, beside what is published. */
  @Get('published')
  @Answers(PublishPlan)
  plan(@Query({ schema: PlanQuery }) { gateway }: { gateway?: string | undefined }): PublishPlan {
    return this.publishing.plan(gateway);
  }

  /** Publishes them, as one change of the estate. */
  @Post('published')
  @Answers(Applied, 201)
  @Needs('engineer')
  publish(@Body({ schema: PublishRequest }) { gateway, seen }: PublishRequest, @Req() request: SignedRequest): Promise<Applied> {
    return this.publishing.publish(request.user.name, gateway, seen);
  }
}
