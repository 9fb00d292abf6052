import {
  Body,
  type CanActivate,
  Controller,
  type ExecutionContext,
  Get,
  HttpCode,
  Inject,
  Injectable,
  Param,
  Post,
  UseGuards,
} from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { PortalReport, PortalEstate, EntryTarget } from '@underpass/contracts';
import type { Request } from 'express';
import { createHash, timingSafeEqual } from 'node:crypto';
import { z } from 'zod';
import { CONFIG, type Config } from '../config.js';
import { kB, Takes } from '../edge/takes.js';
import { EstateStore } from '../estate/estate.store.js';
import { ProblemError } from '../problems/problem.js';
import { Public } from '../signin/session.guard.js';
import { EntryLinkService } from './entryLink.service.js';
import { SightingService } from './sighting.service.js';
import { Answers, AnswersNothing } from '../edge/answers.js';

const digest = (text: string) => createHash('sha256').update(text).digest();

/** Portals come with the key both sides were started with; without a key configured nobody does. */
@Injectable()
export class PortalGuard implements CanActivate {
  constructor(@Inject(CONFIG) private readonly config: Config) {}

  canActivate(context: ExecutionContext): boolean {
    const given = /^Bearer (.+)$/.exec(context.switchToHttp().getRequest<Request>().headers.authorization ?? '')?.[1];
    if (this.config.portalKey === null || given === undefined || !timingSafeEqual(digest(given), digest(this.config.portalKey)))
      throw new ProblemError(401, 'Not signed in', 'This is for portals, which come with their key.');
    return true;
  }
}

/** What a portal reads here and reports. */
@ApiTags('access')
@Controller('portal')
@Public()
@UseGuards(PortalGuard)
export class PortalController {
  constructor(
    private readonly store: EstateStore,
    private readonly links: EntryLinkService,
    private readonly sightings: SightingService,
  ) {}

  @Get('estate')
  @Answers(PortalEstate)
  estate(): PortalEstate {
    const { organisation, person, group, publication, portal, resource, pool, host, gateway, session, setting, endpoint } =
      this.store.written();
    return { organisation, person, group, publication, portal, resource, pool, host, gateway, session, setting, endpoint };
  }

  @Get('links/:id')
  @Answers(EntryTarget)
  link(@Param('id', { schema: z.string().regex(/^[A-Za-z0-9]{1,40}$/) }) id: string): Promise<{ targetKind: string; target: string }> {
    return this.links.target(id);
  }

  @Post('reports')
  @AnswersNothing()
  @Takes(128 * kB)
  @HttpCode(204)
  report(@Body({ schema: PortalReport }) report: PortalReport): Promise<void> {
    return this.sightings.take(report);
  }
}
