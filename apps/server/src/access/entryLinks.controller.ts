import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EntryLinkRequest, LinkTestRequest, SheetQuery, type EntryLinkView, type LinkTestView } from '@underpass/contracts';
import { knownBrowsers } from '@underpass/core';
import type { Response } from 'express';
import { z } from 'zod';
import { Reading } from '../edge/reading.service.js';
import { AtOnce } from '../edge/takes.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { EntryLinkService } from './entryLink.service.js';

const LinkId = z.string().regex(/^[A-Za-z0-9]{1,40}$/);

@ApiTags('access')
@Controller('access/links')
export class EntryLinksController {
  constructor(
    private readonly links: EntryLinkService,
    private readonly reading: Reading,
  ) {}

  @Get()
  list(): Promise<EntryLinkView[]> {
    return this.links.list();
  }

  @Get('browsers')
  browsers(): typeof knownBrowsers {
    return knownBrowsers;
  }

  @Post()
  make(@Body({ schema: EntryLinkRequest }) body: EntryLinkRequest, @Req() request: SignedRequest): Promise<EntryLinkView[]> {
    return this.links.make(body, request.user.name);
  }

  /** Tries a link for a person on paper, before it is sent. */
  @Post('test')
  @HttpCode(200)
  @Needs('reader')
  test(@Body({ schema: LinkTestRequest }) body: LinkTestRequest): LinkTestView {
    return this.links.test(body);
  }

  /** The print sheet: codes with captions, as SVG or PDF. */
  @Get('sheet')
  @AtOnce('print sheet', 3, 6)
  async sheet(@Query({ schema: SheetQuery }) { ids, distanceM, format }: SheetQuery, @Res() response: Response): Promise<void> {
    const codes = await this.links.some(ids.split(','));
    const sheet = await this.reading.run('sheet', { codes, distanceM, format }, { withinMs: 30_000 });
    response.setHeader('x-reading-distance-m', sheet.distanceM.toFixed(2));
    if (format === 'svg') response.type('image/svg+xml').send(sheet.content);
    else response.type('application/pdf').attachment('codes.pdf').send(Buffer.from(sheet.content));
  }

  @Delete(':id')
  @HttpCode(204)
  revoke(@Param('id', { schema: LinkId }) id: string): Promise<void> {
    return this.links.revoke(id);
  }

  @Post(':id/restore')
  @HttpCode(204)
  restore(@Param('id', { schema: LinkId }) id: string): Promise<void> {
    return this.links.restore(id);
  }
}
