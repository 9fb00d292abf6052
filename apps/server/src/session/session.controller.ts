import { Body, Controller, Delete, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { Session, SignIn } from '@underpass/contracts';
import type { Request, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import { EstateStore } from '../estate/estate.store.js';
import { ProblemError } from '../problems/problem.js';
import { Needs, Public, sessionCookie, type SignedRequest } from './session.guard.js';
import { SessionService, type SignedIn } from './session.service.js';

/** Ten wrong sign-ins from an address in five minutes, then it waits. */
export const signInLimit = rateLimit({
  windowMs: 300_000,
  limit: 10,
  skipSuccessfulRequests: true,
  standardHeaders: true,
  legacyHeaders: false,
  validate: { trustProxy: false },
  handler: (_request: Request, response: Response) => {
    response
      .status(429)
      .type('application/problem+json')
      .send(JSON.stringify({ type: 'about:blank', title: 'Too many tries', status: 429, detail: 'Wait five minutes, then try again.' }));
  },
});

@ApiTags('session')
@Controller('session')
export class SessionController {
  constructor(
    private readonly sessions: SessionService,
    private readonly store: EstateStore,
  ) {}

  @Public()
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ standardSchema: Session })
  async signIn(
    @Body({ schema: SignIn }) body: SignIn,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Session> {
    const signedIn = await this.sessions.signIn(body.email, body.password);
    if (!signedIn)
      throw new ProblemError(401, 'Not signed in', 'The address or the password is not right.', [
        { field: 'password', problem: 'The address or the password is not right.' },
      ]);
    response.cookie(sessionCookie, signedIn.token, {
      httpOnly: true,
      sameSite: 'strict',
      secure: request.secure,
      path: '/',
      maxAge: 12 * 3_600_000,
    });
    return this.view(signedIn.user);
  }

  @Get()
  @ApiOkResponse({ standardSchema: Session })
  who(@Req() request: SignedRequest): Session {
    return this.view(request.user);
  }

  @Needs('reader')
  @Delete()
  @HttpCode(204)
  async signOut(@Req() request: SignedRequest, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.sessions.signOut(request.token);
    response.clearCookie(sessionCookie, { path: '/' });
  }

  private view(user: SignedIn): Session {
    return {
      name: user.name,
      email: user.email,
      role: user.role,
      organisation: this.store.model.organisation.name,
      version: this.store.version,
    };
  }
}
