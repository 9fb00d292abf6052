import { Body, Controller, Delete, Get, HttpCode, Inject, Post, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ConfirmRequest, Session, SignIn, SignInOptions, LeadsTo } from '@underpass/contracts';
import type { Request, Response } from 'express';
import { CONFIG, type Config } from '../config.js';
import { TrustedProxies } from '../edge/address.js';
import { kB, Takes } from '../edge/takes.js';
import { EstateStore } from '../estate/estate.store.js';
import { ProblemError, tooMany } from '../problems/problem.js';
import { clearSignedIn, cookieNames, cookieOf, setSignedIn } from './cookies.js';
import { deviceOf } from './device.js';
import { ProviderService } from './provider.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Own, Public, type SignedRequest } from './session.guard.js';
import { SessionService, type SignedIn, type SignInResult, type Visitor } from './session.service.js';
import { Answers, AnswersNothing } from '../edge/answers.js';

/** What is said of a sign-in or a confirmation that did not succeed. */
export function refusal(result: Exclude<SignInResult, { token: string }>): ProblemError {
  if ('waitS' in result)
    return tooMany(
      result.waitS,
      `There were several wrong tries. Wait ${result.waitS} ${result.waitS === 1 ? 'second' : 'seconds'}, then try again.`,
    );
  if (result.refused === 'code needed')
    return new ProblemError(
      401,
      'Second factor',
      'Give the code your authenticator shows.',
      [{ field: 'code', problem: 'is needed' }],
      {},
      { needs: 'code' },
    );
  if (result.refused === 'code wrong')
    return new ProblemError(
      401,
      'Second factor',
      'The code is not right, or was used already. Give the one that is shown now.',
      [{ field: 'code', problem: 'is not right, or was used already' }],
      {},
      { needs: 'code' },
    );
  return new ProblemError(401, 'Not signed in', 'The address or the password is not right.', [
    { field: 'password', problem: 'The address or the password is not right.' },
  ]);
}

@ApiTags('session')
@Controller('session')
export class SessionController {
  constructor(
    private readonly sessions: SessionService,
    private readonly store: EstateStore,
    private readonly provider: ProviderService,
    private readonly log: SecurityLog,
    private readonly proxies: TrustedProxies,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  private visitor(request: Request): Visitor {
    return {
      address: this.proxies.addressOf(request),
      device: deviceOf(request.headers['user-agent']),
      known: cookieOf(request.headers.cookie, cookieNames(this.config).device),
    };
  }

  @Public()
  @Get('options')
  @Answers(SignInOptions)
  options(): SignInOptions {
    return { provider: this.config.provider?.name ?? null, demo: this.config.demoFolder !== null };
  }

  @Public()
  @Post()
  @Answers(Session)
  @Takes(4 * kB)
  @HttpCode(200)
  async signIn(
    @Body({ schema: SignIn }) body: SignIn,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Session> {
    const result = await this.sessions.signIn(body.email, body.password, body.code, this.visitor(request));
    if (!('token' in result)) throw refusal(result);
    setSignedIn(response, this.config, result.token, result.known);
    return this.view(result.user);
  }

  @Own()
  @Get()
  @Answers(Session)
  who(@Req() request: SignedRequest): Session {
    return this.view(request.user);
  }

  /** Asks for the password once more, before something weighty. */
  @Own()
  @Post('confirm')
  @AnswersNothing()
  @Takes(4 * kB)
  @HttpCode(204)
  async confirm(@Body({ schema: ConfirmRequest }) body: ConfirmRequest, @Req() request: SignedRequest): Promise<void> {
    const result = await this.sessions.confirm(request.user.id, body.password, body.code, this.proxies.addressOf(request));
    if (result !== 'right') throw refusal(result as Exclude<SignInResult, { token: string }>);
    await this.sessions.confirmed(request.user.sessionId);
  }

  /** Signs out here, and where the organisation's provider is told, there. */
  @Own()
  @Delete()
  @Answers(LeadsTo)
  async signOut(@Req() request: SignedRequest, @Res({ passthrough: true }) response: Response): Promise<{ leadsTo: string } | undefined> {
    const session = await this.sessions.sessionOf(request.token);
    await this.sessions.end('id', request.user.sessionId);
    await this.log.recordOf('signed out', request);
    clearSignedIn(response, this.config);
    const token = session && this.sessions.providerToken(session);
    const leadsTo = token ? await this.provider.signOutAddress(token) : null;
    response.status(leadsTo ? 200 : 204);
    return leadsTo ? { leadsTo } : undefined;
  }

  private view(user: SignedIn): Session {
    return {
      name: user.name,
      email: user.email,
      role: user.role,
      organisation: this.store.model.organisation.name,
      version: this.store.version,
      mustSetUpFactor: user.mustSetUpFactor,
      throughProvider: user.throughProvider,
    };
  }
}
