import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { JobView, peopleExports } from '@underpass/contracts';
import type { Response } from 'express';
import { DataSource } from 'typeorm';
import { notFound, ProblemError } from '../problems/problem.js';
import { JobsService } from './jobs.service.js';
import type { Progress } from './progress.js';

/** How long a file waits to be taken, minutes. */
const keptMinutes = 60;

export type ExportKind = (typeof peopleExports)[number] | 'log export';
export interface ExportFile {
  name: string;
  media: string;
  content: Uint8Array;
}

/** Files that are made as long work: asked for, made by any worker, and fetched within the hour. */
@Injectable()
export class Exports {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly jobs: JobsService,
  ) {}

  /** A subject says how its file is made. */
  takes(kind: ExportKind, make: (request: object, progress: Progress) => Promise<ExportFile>): void {
    this.jobs.takes(kind, async ({ id, request }, progress) => {
      const file = await make(request, progress);
      progress.at('keeping the file', 1, 1);
      await this.keep(id, file);
      return { name: file.name, bytes: file.content.byteLength };
    });
  }

  async start(kind: ExportKind, name: string, by: string, request: object = {}): Promise<JobView> {
    await this.data.query(`DELETE FROM job_file WHERE at < now() - $1 * interval '1 minute'`, [keptMinutes]);
    return this.jobs.start({ kind, name, by, request, atMost: { own: 1, all: 2 } });
  }

  /** Only while it is still wanted: whoever was erased meanwhile may stand in it, and then it was called off. */
  private async keep(id: string, { name, media, content }: ExportFile): Promise<void> {
    const kept = (await this.data.query(
      `WITH wanted AS (SELECT id FROM job WHERE id = $1 AND NOT cancel AND state = 'running' FOR SHARE)
       INSERT INTO job_file (job, at, name, media, content) SELECT id, now(), $2, $3, $4 FROM wanted
       ON CONFLICT (job) DO UPDATE SET at = now(), content = excluded.content RETURNING job`,
      [id, name, media, Buffer.from(content.buffer, content.byteOffset, content.byteLength)],
    )) as object[];
    if (kept.length === 0)
      throw new ProblemError(409, 'Not wanted any more', 'It was called off, or somebody was erased meanwhile. Export again.');
  }

  /** Hands a file to whoever may ask for its kind, or for one of several. */
  async send(kinds: ExportKind | readonly ExportKind[], id: string, response: Response): Promise<void> {
    const [file] = (await this.data.query(
      'SELECT f.name, f.media, f.content FROM job_file f JOIN job j ON j.id = f.job WHERE j.id = $1 AND j.kind = ANY($2)',
      [id, [kinds].flat()],
    )) as (Omit<ExportFile, 'content'> & { content: Buffer })[];
    if (!file) throw notFound('export', id);
    response.type(file.media).attachment(file.name).send(file.content);
  }
}
