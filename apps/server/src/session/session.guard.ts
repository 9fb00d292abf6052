import { Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Role } from '@underpass/contracts';
import type { Request } from 'express';
import { ProblemError } from '../problems/problem.js';
import { SessionService, type SignedIn } from './session.service.js';

const ranks: Record<Role, number> = { reader: 0, engineer: 1, admin: 2 };
const NEEDS = 'needs role';
const PUBLIC = 'public route';

/** The least role a route asks for; without it a route that changes something asks for engineer, others for reader. */
export const Needs = (role: Role) => SetMetadata(NEEDS, role);
/** A route for people without a sign-in. */
export const Public = () => SetMetadata(PUBLIC, true);

export interface SignedRequest extends Request {
  user: SignedIn;
  token: string;
}
export const sessionCookie = 'underpass_session';

export function cookieOf(header: string | undefined, name: string): string | undefined {
  return header
    ?.split(';')
    .map((part) => part.trim())
    .find((part) => part.startsWith(`${name}=`))
    ?.slice(name.length + 1);
}

/** Every route is closed unless it says otherwise; requests that change something must carry a header no foreign page can set. */
@Injectable()
export class SessionGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly sessions: SessionService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const targets = [context.getHandler(), context.getClass()];
    if (this.reflector.getAllAndOverride<boolean>(PUBLIC, targets)) return true;
    const request = context.switchToHttp().getRequest<SignedRequest>();
    const reads = request.method === 'GET' || request.method === 'HEAD';
    if (!reads && request.headers['x-underpass'] !== '1')
      throw new ProblemError(403, 'Refused', 'The request does not come from a page of Underpass.');
    const token = cookieOf(request.headers.cookie, sessionCookie);
    const user = token ? await this.sessions.who(token) : null;
    if (!token || !user) throw new ProblemError(401, 'Not signed in', 'Sign in to go on.');
    const needed = this.reflector.getAllAndOverride<Role | undefined>(NEEDS, targets) ?? (reads ? 'reader' : 'engineer');
    if (ranks[user.role] < ranks[needed])
      throw new ProblemError(403, 'Not allowed', `This asks for the role ${needed}; yours is ${user.role}.`);
    request.user = user;
    request.token = token;
    return true;
  }
}
