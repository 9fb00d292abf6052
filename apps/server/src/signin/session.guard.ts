import { Inject, Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Role } from '@underpass/contracts';
import type { Request } from 'express';
import { CONFIG, type Config } from '../config.js';
import { ProblemError } from '../problems/problem.js';
import { cookieNames, cookieOf } from './cookies.js';
import { SessionService, type SignedIn } from './session.service.js';

const ranks: Record<Role, number> = { reader: 0, engineer: 1, admin: 2 };
const NEEDS = 'needs role';
const PUBLIC = 'public route';
const OWN = 'own account';
const CONFIRMED = 'confirmed lately';
/** For this long after the password was asked it is not asked again, ms. */
export const confirmedForMs = 10 * 60_000;

/** The least role a route asks for; without it a route that changes something asks for engineer, others for reader. */
export const Needs = (role: Role) => SetMetadata(NEEDS, role);
/** A route for people without a sign-in. */
export const Public = () => SetMetadata(PUBLIC, true);
/** A route about one's own account: open to every role, and also before a second factor that is asked for is set up. */
export const Own = () => SetMetadata(OWN, true);
/** A weighty route: the password is asked again where that was not done lately. */
export const Confirmed = () => SetMetadata(CONFIRMED, true);

export interface SignedRequest extends Request {
  user: SignedIn;
  token: string;
}

/** Every route is closed unless it says otherwise; requests that change something must carry a header no foreign page can set. */
@Injectable()
export class SessionGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly sessions: SessionService,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const targets = [context.getHandler(), context.getClass()];
    const asks = <T>(key: string) => this.reflector.getAllAndOverride<T | undefined>(key, targets);
    if (asks<boolean>(PUBLIC)) return true;
    const request = context.switchToHttp().getRequest<SignedRequest>();
    const reads = request.method === 'GET' || request.method === 'HEAD';
    if (!reads && request.headers['x-underpass'] !== '1')
      throw new ProblemError(403, 'Refused', 'The request does not come from a page of Underpass.');
    const token = cookieOf(request.headers.cookie, cookieNames(this.config).session);
    const user = token ? await this.sessions.who(token, request.headers['x-idle'] !== '1') : null;
    if (!token || !user) throw new ProblemError(401, 'Not signed in', 'Sign in to go on.');
    const own = asks<boolean>(OWN) ?? false;
    if (user.mustSetUpFactor && !own)
      throw new ProblemError(
        403,
        'Second factor',
        'Your role asks for a second factor. Set it up under your name, then go on.',
        undefined,
        {},
        {
          needs: 'second factor',
        },
      );
    const needed = own ? 'reader' : (asks<Role>(NEEDS) ?? (reads ? 'reader' : 'engineer'));
    if (ranks[user.role] < ranks[needed])
      throw new ProblemError(403, 'Not allowed', `This asks for the role ${needed}; yours is ${user.role}.`);
    if (asks<boolean>(CONFIRMED) && Date.now() - user.confirmedAtMs > confirmedForMs)
      throw new ProblemError(
        403,
        'Confirm first',
        'This is weighty, so your password is asked once more.',
        undefined,
        {},
        { needs: 'confirmation' },
      );
    request.user = user;
    request.token = token;
    return true;
  }
}
