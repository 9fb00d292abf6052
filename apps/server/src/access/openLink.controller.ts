import { spokenOf, textsOf } from '@underpass/contracts/texts';
import { Controller, Get, Param, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { z } from 'zod';
import { Public } from '../signin/session.guard.js';
import { EntryLinkService } from './entryLink.service.js';
import { AnswersElsewhere } from '../edge/answers.js';

const Anything = z.string().max(60);

/** Opened by people, without a sign-in here: the portal asks for theirs. Only ever leads to a portal of the estate. */
@ApiTags('access')
@Controller('go')
export class OpenLinkController {
  constructor(private readonly links: EntryLinkService) {}

  @Get(':id')
  @AnswersElsewhere()
  @Public()
  async open(@Param('id', { schema: Anything }) id: string, @Req() request: Request, @Res() response: Response): Promise<void> {
    const result = await this.links.open(id);
    response.setHeader('cache-control', 'no-store');
    response.setHeader('referrer-policy', 'no-referrer');
    if ('leadsTo' in result) response.redirect(302, result.leadsTo);
    else {
      // in the person’s language, as their browser says it
      const language = spokenOf(request.acceptsLanguages());
      const { texts } = await textsOf[language]();
      response
        .status(410)
        .type('html')
        .send(
          `<!doctype html><html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Link</title><style>body{font:18px/27px sans-serif;max-width:32rem;margin:5rem auto;padding:0 1.5rem;color:#10323a;background:#f5f3ec}</style></head><body><h1>${texts['entry.gone']}</h1><p>${texts[`entry.${result.gone}`]}</p></body></html>`,
        );
    }
  }
}
