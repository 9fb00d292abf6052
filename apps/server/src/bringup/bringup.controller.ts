import { Controller, Get, Param } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { BringupBoot, BringupPlace, BringupPlaces } from '@underpass/contracts';
import { Answers } from '../edge/answers.js';
import { BringupService } from './bringup.service.js';

/** From a bare device to its first sign-in. */
@ApiTags('bringup')
@Controller('bringup')
export class BringupController {
  constructor(private readonly bringup: BringupService) {}

  /** Every place whose devices are described, with what stops them. */
  @Get()
  @Answers(BringupPlaces)
  places(): Promise<BringupPlaces> {
    return this.bringup.places();
  }

  /** The devices of a place, those that stop first. */
  @Get('places/:id')
  @Answers(BringupPlace)
  place(@Param('id') id: string): BringupPlace {
    return this.bringup.place(id);
  }

  /** The start of a device, step by step, with what it sent and received. */
  @Get('endpoints/:id')
  @Answers(BringupBoot)
  boot(@Param('id') id: string): BringupBoot {
    return this.bringup.boot(id);
  }
}
