import { Body, Controller, Get, HttpCode, Inject, Post, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { z } from 'zod';
import { CONFIG, type Config } from '../config.js';
import { TrustedProxies } from '../edge/address.js';
import { kB, Takes } from '../edge/takes.js';
import { ProblemError } from '../problems/problem.js';
import { clearWay, cookieNames, cookieOf, setSignedIn, setWay } from './cookies.js';
import { deviceOf } from './device.js';
import { ProviderService } from './provider.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Own, Public, type SignedRequest } from './session.guard.js';
import { SessionService } from './session.service.js';
import { UsersService } from './users.service.js';
import { AnswersElsewhere, AnswersFile } from '../edge/answers.js';

const LogoutForm = z.object({ logout_token: z.string().min(1).max(8000) });

/** The way to the organisation's provider and back. */
@ApiTags('session')
@Controller('session/provider')
export class ProviderController {
  constructor(
    private readonly provider: ProviderService,
    private readonly sessions: SessionService,
    private readonly users: UsersService,
    private readonly log: SecurityLog,
    private readonly proxies: TrustedProxies,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  @Public()
  @Get()
  @AnswersElsewhere()
  async start(@Res() response: Response): Promise<void> {
    const { leadsTo, way } = await this.provider.start(null);
    setWay(response, this.config, way);
    response.redirect(302, leadsTo);
  }

  /** For those who have no password here: the provider asks once more. */
  @Own()
  @Get('confirm')
  @AnswersElsewhere()
  async confirm(@Req() request: SignedRequest, @Res() response: Response): Promise<void> {
    const { leadsTo, way } = await this.provider.start(request.user.sessionId);
    setWay(response, this.config, way);
    response.redirect(302, leadsTo);
  }

  @Public()
  @Get('back')
  @AnswersElsewhere()
  async back(@Req() request: Request, @Res() response: Response): Promise<void> {
    const address = this.proxies.addressOf(request);
    const { search } = new URL(request.originalUrl, 'http://here');
    clearWay(response, this.config);
    try {
      const vouched = await this.provider.finish(search, cookieOf(request.headers.cookie, cookieNames(this.config).way));
      const user = await this.users.provided(vouched.provider, vouched.email, vouched.name, vouched.role);
      if (vouched.confirms) {
        const own = await this.sessions.own(user.id, vouched.confirms);
        if (!own.some(({ current }) => current)) throw new ProblemError(403, 'Not allowed', 'Somebody else answered for this session.');
        await this.sessions.confirmed(vouched.confirms);
        return response.redirect(302, '/account?confirmed=yes');
      }
      const { token, known } = await this.sessions.begin(
        user,
        { address, device: deviceOf(request.headers['user-agent']), known: undefined },
        { session: vouched.session, token: vouched.token },
      );
      setSignedIn(response, this.config, token, known);
      response.redirect(302, '/board');
    } catch (error) {
      // what the provider or somebody on the way sent is told in our own words only
      const problem = error instanceof ProblemError ? error.problem : null;
      await this.log.record('provider refused', { address, about: problem?.detail ?? (error as Error).message });
      response.redirect(
        302,
        `/?sign-in=${problem?.status === 503 ? 'away' : problem?.status === 403 ? 'no-role' : problem?.status === 409 ? 'in-use' : 'refused'}`,
      );
    }
  }

  /** Told by the provider itself that somebody signed out there. */
  @Public()
  @Post('logout')
  @AnswersFile('application/json')
  @Takes(16 * kB, 'form')
  @HttpCode(200)
  async logout(
    @Body({ schema: LogoutForm }) { logout_token }: z.infer<typeof LogoutForm>,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    response.setHeader('cache-control', 'no-store');
    const { session, provider } = await this.provider.signedOutThere(logout_token);
    if (session !== null) await this.sessions.end('provider_session', session);
    else if (provider !== null) await this.sessions.endOfProvider(provider);
  }
}
