import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { BootReport, BringupBoot } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { Channel } from '../events/channel.service.js';

/** What devices told of their last start; of each the newest is kept. */
@Injectable()
export class ReportService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly channel: Channel,
  ) {}

  async keep({ endpoint, ...report }: BootReport): Promise<void> {
    await this.data.query(
      `INSERT INTO boot_report (endpoint, at, report) VALUES ($1, now(), $2)
       ON CONFLICT (endpoint) DO UPDATE SET at = excluded.at, report = excluded.report`,
      [endpoint, JSON.stringify(report)],
    );
    await this.channel.tell({ type: 'boot', id: endpoint });
  }

  async of(endpoints: readonly string[]): Promise<ReadonlyMap<string, NonNullable<BringupBoot['reported']>>> {
    const rows: { endpoint: string; at: Date; report: Omit<BootReport, 'endpoint'> }[] = await this.data.query(
      'SELECT endpoint, at, report FROM boot_report WHERE endpoint = ANY($1)',
      [endpoints],
    );
    return new Map(rows.map(({ endpoint, at, report }) => [endpoint, { ...report, at: at.toISOString() }]));
  }
}
