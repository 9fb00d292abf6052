import { textsOf } from '@underpass/contracts/texts';
import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EntryLinkRequest, LinkTestRequest, SheetQuery, EntryLinkView, LinkTestView, KnownBrowser } from '@underpass/contracts';
import { knownBrowsers } from '@underpass/core';
import type { Response } from 'express';
import { z } from 'zod';
import { Reading } from '../edge/reading.service.js';
import { AtOnce } from '../edge/takes.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { EntryLinkService } from './entryLink.service.js';
import { Answers, AnswersFile, AnswersNothing } from '../edge/answers.js';

const LinkId = z.string().regex(/^[A-Za-z0-9]{1,40}$/);

@ApiTags('access')
@Controller('access/links')
export class EntryLinksController {
  constructor(
    private readonly links: EntryLinkService,
    private readonly reading: Reading,
  ) {}

  @Get()
  @Answers(EntryLinkView.array())
  list(): Promise<EntryLinkView[]> {
    return this.links.list();
  }

  @Get('browsers')
  @Answers(KnownBrowser.array())
  browsers(): typeof knownBrowsers {
    return knownBrowsers;
  }

  @Post()
  @Answers(EntryLinkView.array(), 201)
  make(@Body({ schema: EntryLinkRequest }) body: EntryLinkRequest, @Req() request: SignedRequest): Promise<EntryLinkView[]> {
    return this.links.make(body, request.user.name);
  }

  /** Tries a link for a person on paper, before it is sent. */
  @Post('test')
  @Answers(LinkTestView)
  @HttpCode(200)
  @Needs('reader')
  test(@Body({ schema: LinkTestRequest }) body: LinkTestRequest): LinkTestView {
    return this.links.test(body);
  }

  /** The print sheet: codes with captions, as SVG or PDF. */
  @Get('sheet')
  @AnswersFile('image/svg+xml', 'application/pdf')
  @AtOnce('print sheet', 3, 6)
  async sheet(@Query({ schema: SheetQuery }) { ids, distanceM, format, lang }: SheetQuery, @Res() response: Response): Promise<void> {
    const codes = await this.links.some(ids.split(','));
    const { texts } = await textsOf[lang]();
    const caption = { language: lang, text: texts['sheet.distance'] ?? '' };
    const sheet = await this.reading.run('sheet', { codes, distanceM, format, caption }, { withinMs: 30_000 });
    response.setHeader('x-reading-distance-m', sheet.distanceM.toFixed(2));
    if (format === 'svg') response.type('image/svg+xml').send(sheet.content);
    else response.type('application/pdf').attachment('codes.pdf').send(Buffer.from(sheet.content));
  }

  @Delete(':id')
  @AnswersNothing()
  @HttpCode(204)
  revoke(@Param('id', { schema: LinkId }) id: string): Promise<void> {
    return this.links.revoke(id);
  }

  @Post(':id/restore')
  @AnswersNothing()
  @HttpCode(204)
  restore(@Param('id', { schema: LinkId }) id: string): Promise<void> {
    return this.links.restore(id);
  }
}
