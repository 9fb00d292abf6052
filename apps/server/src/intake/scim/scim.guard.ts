import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ScimOptions } from '@underpass/contracts';
import type { Request } from 'express';
import { DataSource } from 'typeorm';
import { ProblemError } from '../../problems/problem.js';
import { hashToken } from '../../secrets/tokens.js';
import type { FeedFrom } from '../feeds/feed.service.js';

/** A directory that sends, and what it may. */
export interface ScimFeed extends FeedFrom {
  options: ScimOptions;
}
export interface ScimRequest extends Request {
  feed: ScimFeed;
  /** Work that runs a few at a time is counted by it. */
  user: { id: string };
}

/** Directories come with the token they were given [RFC 6750]; nobody else is listened to. */
@Injectable()
export class ScimGuard implements CanActivate {
  constructor(@InjectDataSource() private readonly data: DataSource) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<ScimRequest>();
    const token = /^Bearer ([A-Za-z0-9_-]{16,200})$/i.exec(request.headers.authorization ?? '')?.[1];
    const [row] = token
      ? ((await this.data.query(`SELECT id, name, options FROM feed WHERE kind = 'scim' AND token_hash = $1`, [hashToken(token)])) as {
          id: string;
          name: string;
          options: unknown;
        }[])
      : [];
    if (!row)
      throw new ProblemError(401, 'Not signed in', 'This is for directories, which come with the token they were given.', undefined, {
        'www-authenticate': 'Bearer realm="scim"',
      });
    const options = ScimOptions.parse(row.options);
    request.feed = { id: row.id, name: row.name, source: `scim:${row.name}`, makePlaces: options.makePlaces, options };
    request.user = { id: row.id };
    return true;
  }
}
