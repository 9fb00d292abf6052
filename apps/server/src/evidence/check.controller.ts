import { Controller, Get, Param } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { CheckGreeting } from '@underpass/contracts';
import { z } from 'zod';
import { Public } from '../session/session.guard.js';
import { LinkService } from './link.service.js';

const CheckToken = z.string().regex(/^[A-Za-z0-9_-]{20,60}$/, 'This link is not whole. Copy all of it.');

@ApiTags('field check')
@Public()
@Controller('check')
export class CheckController {
  constructor(private readonly links: LinkService) {}

  /** What the page says before it starts. Names only: nothing that opens anything. */
  @Get(':token')
  greet(@Param('token', { schema: CheckToken }) token: string): Promise<CheckGreeting> {
    return this.links.greeting(token);
  }
}
