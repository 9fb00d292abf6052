import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { FactorOffer, FactorRequest, OwnAccount, PasswordRequest, SpareCodes } from '@underpass/contracts';
import QRCode from 'qrcode';
import { z } from 'zod';
import { TrustedProxies } from '../edge/address.js';
import { kB, Takes } from '../edge/takes.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { RulesService } from './rules.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { refusal } from './session.controller.js';
import { Confirmed, Own, type SignedRequest } from './session.guard.js';
import { SessionService, type SignInResult } from './session.service.js';
import { UsersService } from './users.service.js';
import { Answers, AnswersNothing } from '../edge/answers.js';

const Uuid = z.uuid();

/** One's own account: password, second factor, and where one is signed in. */
@ApiTags('session')
@Own()
@Controller('account')
export class AccountController {
  constructor(
    private readonly sessions: SessionService,
    private readonly users: UsersService,
    private readonly rules: RulesService,
    private readonly log: SecurityLog,
    private readonly proxies: TrustedProxies,
  ) {}

  @Get()
  @Answers(OwnAccount)
  async view(@Req() { user }: SignedRequest): Promise<OwnAccount> {
    const own = await this.users.one(user.id);
    return {
      factor: own?.factorSecret != null,
      spareCodes: own?.spareCodes.length ?? 0,
      factorNeeded: !user.throughProvider && (await this.rules.get()).factorFor.includes(user.role),
      sessions: await this.sessions.own(user.id, user.sessionId),
    };
  }

  /** Changes the password; every other session of the person ends. */
  @Put('password')
  @AnswersNothing()
  @Takes(4 * kB)
  @HttpCode(204)
  async password(@Body({ schema: PasswordRequest }) body: PasswordRequest, @Req() request: SignedRequest): Promise<void> {
    const user = await this.users.one(request.user.id);
    if (!user || user.passwordHash === null)
      throw new ProblemError(422, 'No password here', 'You sign in through your organisation; the password is changed there.');
    const result = await this.sessions.confirm(user.id, body.password, body.code, this.proxies.addressOf(request));
    if (result !== 'right') throw refusal(result as Exclude<SignInResult, { token: string }>);
    await this.users.changePassword(user, body.next);
    const ended = await this.sessions.end('user_id', user.id, request.user.sessionId);
    await this.log.recordOf('password changed', request, ended ? `${ended} other sessions ended` : '');
  }

  /** A secret for a second factor; nothing is kept until a code of it comes back. */
  @Post('factor/offer')
  @Answers(FactorOffer)
  @Confirmed()
  @HttpCode(200)
  async offer(@Req() { user }: SignedRequest): Promise<FactorOffer> {
    const { secret, uri } = this.users.offerFactor(user.email);
    return { secret, uri, qr: await QRCode.toString(uri, { type: 'svg', errorCorrectionLevel: 'M', margin: 4 }) };
  }

  @Put('factor')
  @Answers(SpareCodes)
  @Confirmed()
  @Takes(4 * kB)
  async setUp(@Body({ schema: FactorRequest }) body: FactorRequest, @Req() request: SignedRequest): Promise<SpareCodes> {
    const codes = await this.users.setUpFactor(request.user.id, body.secret, body.code);
    await this.log.recordOf('second factor set up', request);
    return { codes };
  }

  /** New spare codes; the earlier ones are good no longer. */
  @Post('factor/spare-codes')
  @Answers(SpareCodes)
  @Confirmed()
  @HttpCode(200)
  async spare(@Req() request: SignedRequest): Promise<SpareCodes> {
    const own = await this.users.one(request.user.id);
    if (own?.factorSecret == null) throw new ProblemError(409, 'No second factor', 'Set up a second factor first.');
    const codes = await this.users.newSpareCodes(request.user.id);
    await this.log.recordOf('spare codes made', request);
    return { codes };
  }

  @Delete('factor')
  @AnswersNothing()
  @Confirmed()
  @HttpCode(204)
  async removeFactor(@Req() request: SignedRequest): Promise<void> {
    if ((await this.rules.get()).factorFor.includes(request.user.role))
      throw new ProblemError(
        409,
        'Asked for',
        'Your role asks for a second factor. An administrator can take yours away if the device is lost.',
      );
    await this.users.removeFactor(request.user.id);
    await this.log.recordOf('second factor removed', request);
  }

  /** Ends one of one's own sessions, such as one left open elsewhere. */
  @Delete('sessions/:id')
  @AnswersNothing()
  @HttpCode(204)
  async end(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<void> {
    const own = await this.sessions.own(request.user.id, request.user.sessionId);
    if (!own.some((session) => session.id === id)) throw notFound('session', id);
    await this.sessions.end('id', id);
    await this.log.recordOf('session ended', request, 'by its owner');
  }
}
