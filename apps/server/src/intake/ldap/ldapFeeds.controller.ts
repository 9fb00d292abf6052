import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Req } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ApiTags } from '@nestjs/swagger';
import {
  ChangedLdapFeed,
  JobStarted,
  LdapFeedView,
  LdapRun,
  LdapSettings,
  LdapTried,
  LdapTry,
  NewLdapFeed,
  type FeedLast,
} from '@underpass/contracts';
import { Filter, FilterParser } from 'ldapts';
import { DataSource } from 'typeorm';
import { X509Certificate } from 'node:crypto';
import { z } from 'zod';
import { Answers, AnswersNothing } from '../../edge/answers.js';
import { AtOnce, kB, Takes } from '../../edge/takes.js';
import { AllowedTargets } from '../../outward/targets.js';
import { overSeen } from '../../database/overSeen.js';
import { notFound, ProblemError } from '../../problems/problem.js';
import { SecurityLog } from '../../securityLog/securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from '../../signin/session.guard.js';
import { FeedRows } from '../feeds/feedRows.js';
import { assertSameTarget, LdapService } from './ldap.service.js';
import { portOf } from './reader.js';

const Uuid = z.uuid();

interface FeedRow {
  id: string;
  name: string;
  options: unknown;
  sealed: boolean;
  by_name: string;
  at: Date;
  last_at: Date | null;
  next_at: Date | null;
  last: FeedLast | null;
}

/** Directories that are read [RFC 4511]. */
@ApiTags('intake')
@Controller('intake/ldap')
export class LdapFeedsController {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly feeds: FeedRows,
    private readonly ldap: LdapService,
    private readonly targets: AllowedTargets,
    private readonly log: SecurityLog,
  ) {}

  @Get()
  @Answers(LdapFeedView.array())
  @Needs('engineer')
  list(): Promise<LdapFeedView[]> {
    return this.rows(null);
  }

  /** Connects and shows the first few entries as they would be taken. Nothing is written. */
  @Post('try')
  @Answers(LdapTried)
  @HttpCode(200)
  @Needs('admin')
  @Takes(128 * kB)
  @AtOnce('try of a directory', 1, 3)
  async try(@Body({ schema: LdapTry }) { settings, secret, feed }: z.infer<typeof LdapTry>): Promise<LdapTried> {
    assertReadable(settings);
    return this.ldap.try(settings, secret ?? (feed ? await this.ldap.kept(feed, settings) : null));
  }

  @Post()
  @Answers(LdapFeedView, 201)
  @Needs('admin')
  @Confirmed()
  @Takes(128 * kB)
  async add(
    @Body({ schema: NewLdapFeed }) { name, settings, secret }: z.infer<typeof NewLdapFeed>,
    @Req() request: SignedRequest,
  ): Promise<LdapFeedView> {
    await this.assertGood(settings);
    const sealed = secret ? this.ldap.sealed(secret) : null;
    const id = await this.feeds.add(
      { kind: 'ldap', name, options: settings, secret: sealed, everyMinutes: settings.everyMinutes },
      request,
    );
    return this.one(id);
  }

  /** Other settings. The password goes on being kept as long as it goes to the same machine under the same name. */
  @Put(':id')
  @Answers(LdapFeedView)
  @Needs('admin')
  @Confirmed()
  @Takes(128 * kB)
  async change(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: ChangedLdapFeed }) { settings, secret, was }: z.infer<typeof ChangedLdapFeed>,
    @Req() request: SignedRequest,
  ): Promise<LdapFeedView> {
    await this.assertGood(settings);
    const name = await overSeen(
      this.data,
      async (manager) => LdapSettings.parse((await this.ldap.row(id, manager)).options),
      { was, changed: () => 'These settings were changed since you saw them', within: 'settings.' },
      async (manager) => {
        const before = await this.ldap.row(id, manager);
        // one that is empty takes it away
        const sealed = secret === undefined ? assertSameTarget(before, settings).secret : secret === '' ? null : this.ldap.sealed(secret);
        await manager.query(`UPDATE feed SET options = $2, secret = $3, next_at = now() + $4::int * interval '1 minute' WHERE id = $1`, [
          id,
          JSON.stringify(settings),
          sealed,
          settings.everyMinutes,
        ]);
        return before.name;
      },
    );
    await this.log.recordOf('directory added', request, `${name}: other settings`);
    return this.one(id);
  }

  /** Reads it now. The job’s result is what it came to; where more people would leave than the limit, it stops and asks. */
  @Post(':id/run')
  @Answers(JobStarted, 202)
  @HttpCode(202)
  @Needs('engineer')
  async run(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: LdapRun }) { allow }: z.infer<typeof LdapRun>,
    @Req() { user }: SignedRequest,
  ): Promise<JobStarted> {
    return { job: await this.ldap.run(id, allow, user.name) };
  }

  /** It is not read any more. The people and groups it brought stay. */
  @Delete(':id')
  @AnswersNothing()
  @HttpCode(204)
  @Needs('admin')
  @Confirmed()
  async remove(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<void> {
    await this.feeds.remove('ldap', id, request);
  }

  private async assertGood(settings: LdapSettings): Promise<void> {
    assertReadable(settings);
    const { host, port } = portOf(settings.address);
    await this.targets.of(host, port);
  }

  private async one(id: string): Promise<LdapFeedView> {
    const [row] = await this.rows(id);
    if (!row) throw notFound('directory', id);
    return row;
  }

  private async rows(id: string | null): Promise<LdapFeedView[]> {
    const rows = (await this.data.query(
      `SELECT id, name, options, secret IS NOT NULL AS sealed, by_name, at, last_at, next_at, last FROM feed
       WHERE kind = 'ldap' AND ($1::uuid IS NULL OR id = $1) ORDER BY lower(name)`,
      [id],
    )) as FeedRow[];
    return rows.map(({ by_name: by, at, last_at: lastAt, next_at: nextAt, options, sealed: hasSecret, ...row }) => ({
      ...row,
      ...{ settings: LdapSettings.parse(options), hasSecret, by, at: at.toISOString() },
      ...{ lastAt: lastAt?.toISOString() ?? null, nextAt: nextAt?.toISOString() ?? null },
    }));
  }
}

/** A filter that is none [RFC 4515], and certificates that are none [RFC 7468 5], are told where they are typed. */
function assertReadable({ filter, certificates }: LdapSettings): void {
  if (!areCertificates(certificates))
    throw new ProblemError(422, 'Not valid', 'What is given as certificates is not in PEM, or broken.', [
      { field: 'settings.certificates', problem: 'must be certificates in PEM, from BEGIN CERTIFICATE to END CERTIFICATE' },
    ]);
  try {
    const read: Filter = FilterParser.parseString(filter);
    if (!read) throw new Error();
  } catch {
    throw new ProblemError(422, 'Not valid', 'The filter is no filter of a directory.', [
      { field: 'settings.filter', problem: 'must be a filter such as (objectClass=person)' },
    ]);
  }
}

function areCertificates(text: string): boolean {
  if (text.trim() === '') return true;
  const blocks = text.match(/-----BEGIN CERTIFICATE-----[^-]+-----END CERTIFICATE-----/g) ?? [];
  try {
    return blocks.length > 0 && blocks.every((block) => new X509Certificate(block).raw.length > 0);
  } catch {
    return false;
  }
}
