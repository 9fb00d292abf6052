import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DataSource } from 'typeorm';
import { uuidV7 } from '../../database/uuid.js';
import { notFound, ProblemError } from '../../problems/problem.js';
import { SecurityLog } from '../../securityLog/securityLog.service.js';
import type { SignedRequest } from '../../signin/session.guard.js';

/** Most directories together, whether they are read or send. */
const mostFeeds = 20;

/** What is kept of a directory that is new. */
export interface NewFeed {
  kind: 'ldap' | 'scim';
  name: string;
  options: object;
  /** The password it is read with, sealed. */
  secret?: string | null;
  /** Sum of the token that it comes with. */
  tokenHash?: string;
  /** After how many minutes it is read again; null where only somebody starts it. */
  everyMinutes?: number | null;
}

/** Directories as they are kept: added under a name that no other has, and let go of. Both stand in the log of the doors. */
@Injectable()
export class FeedRows {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly log: SecurityLog,
  ) {}

  /** @returns its id */
  async add({ kind, name, options, secret = null, tokenHash, everyMinutes }: NewFeed, request: SignedRequest): Promise<string> {
    const id = uuidV7();
    const [row] = (await this.data.query(
      `INSERT INTO feed (id, kind, name, options, secret, token_hash, by_name, at, next_at)
         SELECT $1, $2, $3, $4, $5, $6, $7, now(), now() + $8::int * interval '1 minute' WHERE (SELECT count(*) FROM feed) < $9
       ON CONFLICT (lower(name)) DO NOTHING RETURNING id`,
      [id, kind, name, JSON.stringify(options), secret, tokenHash ?? null, request.user.name, everyMinutes ?? null, mostFeeds],
    )) as object[];
    if (!row)
      throw new ProblemError(409, 'There already', `There is a directory of the name “${name}”, or there are ${mostFeeds} already.`);
    await this.log.recordOf('directory added', request, name);
    return id;
  }

  /** It is read, or listened to, no more. The people and groups it brought stay. */
  async remove(kind: NewFeed['kind'], id: string, request: SignedRequest): Promise<void> {
    const [gone] = (await this.data.query(
      `WITH gone AS (DELETE FROM feed WHERE id = $1 AND kind = $2 RETURNING name) SELECT name FROM gone`,
      [id, kind],
    )) as { name: string }[];
    if (!gone) throw notFound('directory', id);
    await this.log.recordOf('directory removed', request, gone.name);
  }
}
