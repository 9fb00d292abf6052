import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EntryLinkRequest, LinkTestRequest, SheetQuery, type EntryLinkView, type LinkTestView } from '@underpass/contracts';
import { knownBrowsers } from '@underpass/core';
import type { Request, Response } from 'express';
import { z } from 'zod';
import { Needs, type SignedRequest } from '../session/session.guard.js';
import { EntryLinkService } from './entryLink.service.js';
import { sheetOf, sheetPdf, sheetSvg } from './codeSheet.js';

const LinkId = z.string().regex(/^[A-Za-z0-9]{1,40}$/);
const originOf = (request: Request) => `${request.protocol}://${request.headers.host ?? 'localhost'}`;

@ApiTags('access')
@Controller('access/links')
export class EntryLinksController {
  constructor(private readonly links: EntryLinkService) {}

  @Get()
  list(@Req() request: SignedRequest): Promise<EntryLinkView[]> {
    return this.links.list(originOf(request));
  }

  @Get('browsers')
  browsers(): typeof knownBrowsers {
    return knownBrowsers;
  }

  @Post()
  make(@Body({ schema: EntryLinkRequest }) body: EntryLinkRequest, @Req() request: SignedRequest): Promise<EntryLinkView[]> {
    return this.links.make(body, request.user.name, originOf(request));
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
  async sheet(@Query({ schema: SheetQuery }) query: SheetQuery, @Req() request: SignedRequest, @Res() response: Response): Promise<void> {
    const sheet = sheetOf(await this.links.some(query.ids.split(','), originOf(request)), query.distanceM);
    response.setHeader('x-reading-distance-m', sheet.distanceM.toFixed(2));
    if (query.format === 'svg') response.type('image/svg+xml').send(sheetSvg(sheet));
    else
      response
        .type('application/pdf')
        .attachment('codes.pdf')
        .send(await sheetPdf(sheet));
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
