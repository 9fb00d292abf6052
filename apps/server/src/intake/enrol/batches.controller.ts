import { Body, Controller, Delete, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ApiTags } from '@nestjs/swagger';
import { Applied, BatchMade, BatchView, DropDevices, NewBatch, TakeDevices, WaitingDevice } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { z } from 'zod';
import { uuidV7 } from '../../database/uuid.js';
import { Answers, AnswersNothing } from '../../edge/answers.js';
import { PublicOrigin } from '../../edge/publicOrigin.js';
import { kB, Takes } from '../../edge/takes.js';
import { EstateStore } from '../../estate/estate.store.js';
import { notFound } from '../../problems/problem.js';
import { hashToken, newToken } from '../../secrets/tokens.js';
import { Needs, type SignedRequest } from '../../signin/session.guard.js';
import { EnrolService } from './enrol.service.js';

const Uuid = z.uuid();
const mostBatches = 200;

interface BatchRow {
  id: string;
  name: string;
  most: number;
  used: number;
  location: string | null;
  by_name: string;
  at: Date;
  expires_at: Date;
  revoked_at: Date | null;
}

/** Keys with which devices report, and the devices that wait to be taken in. */
@ApiTags('intake')
@Controller('intake')
export class BatchesController {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly enrol: EnrolService,
    private readonly store: EstateStore,
    private readonly origin: PublicOrigin,
  ) {}

  @Get('batches')
  @Answers(BatchView.array())
  @Needs('engineer')
  list(): Promise<BatchView[]> {
    return this.rows(null);
  }

  /** Makes a key for a batch of devices. It is told this once, in the addresses of the scripts. */
  @Post('batches')
  @Answers(BatchMade, 201)
  @Needs('engineer')
  async make(
    @Body({ schema: NewBatch }) { name, most, hours, location }: z.infer<typeof NewBatch>,
    @Req() { user }: SignedRequest,
  ): Promise<BatchMade> {
    if (location !== undefined && !this.store.find('location', location)) throw notFound('location', location);
    const [key, id] = [newToken(), uuidV7()];
    await this.data.query(
      `INSERT INTO enrol_batch (id, name, token_hash, most, location, by_name, at, expires_at) VALUES ($1, $2, $3, $4, $5, $6, now(), now() + $7::int * interval '1 hour')`,
      [id, name, hashToken(key), most, location ?? null, user.name, hours],
    );
    const [batch] = await this.rows(id);
    const address = `${this.origin.url()}/enrol/${key}`;
    return {
      batch: batch as BatchView,
      address,
      shell: `curl -fsS ${address}/report.sh | sh`,
      objects: `irm ${address}/report.ps1 | iex`,
    };
  }

  /** The key is not good any more. What its devices told stays. */
  @Delete('batches/:id')
  @AnswersNothing()
  @HttpCode(204)
  @Needs('engineer')
  async revoke(@Param('id', { schema: Uuid }) id: string): Promise<void> {
    const [, n] = (await this.data.query('UPDATE enrol_batch SET revoked_at = coalesce(revoked_at, now()) WHERE id = $1', [id])) as [
      unknown,
      number,
    ];
    if (n === 0) throw notFound('batch', id);
  }

  /** Devices that reported and that the estate does not know. */
  @Get('waiting')
  @Answers(WaitingDevice.array())
  @Needs('engineer')
  waiting(): Promise<WaitingDevice[]> {
    return this.enrol.waiting();
  }

  /** Takes devices in, as one change. */
  @Post('waiting/take')
  @Answers(Applied)
  @HttpCode(200)
  @Needs('engineer')
  @Takes(256 * kB)
  take(@Body({ schema: TakeDevices }) body: z.infer<typeof TakeDevices>, @Req() { user }: SignedRequest): Promise<Applied> {
    return this.enrol.takeIn(body, user.name);
  }

  /** Devices that are none of ours: they are not shown again. */
  @Post('waiting/drop')
  @AnswersNothing()
  @HttpCode(204)
  @Needs('engineer')
  async drop(@Body({ schema: DropDevices }) { ids }: z.infer<typeof DropDevices>): Promise<void> {
    await this.enrol.drop(ids);
  }

  private async rows(id: string | null): Promise<BatchView[]> {
    const rows = (await this.data.query(
      `SELECT * FROM enrol_batch WHERE $1::uuid IS NULL OR id = $1 ORDER BY at DESC LIMIT ${mostBatches}`,
      [id],
    )) as BatchRow[];
    return rows.map(({ by_name: by, at, expires_at: expiresAt, revoked_at: revokedAt, id: key, name, most, used, location }) => ({
      ...{ id: key, name, most, used, location, by, at: at.toISOString(), expiresAt: expiresAt.toISOString() },
      state: revokedAt
        ? ('revoked' as const)
        : expiresAt.getTime() <= Date.now()
          ? ('over' as const)
          : used >= most
            ? ('full' as const)
            : ('open' as const),
    }));
  }
}
