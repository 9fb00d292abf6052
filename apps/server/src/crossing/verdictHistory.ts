import { Logger } from '@nestjs/common';
import type { Summary } from '@underpass/core';
import type { DataSource } from 'typeorm';
import { eachInSlices } from '../jobs/slices.js';
import type { Found } from './found.js';

type Figures = Pick<Summary, 'verdict' | 'delayMs' | 'frameRate'>;
/** Rows of one statement: writing them out as text holds others up for some milliseconds. */
const batch = 1000;
/** Between the texts of a batch: no id, verdict or figure has an end of line in it. */
const between = '\n';
/** The database keeps seven digits, and nobody reads more than three behind the point. */
const rounded = (figure: number): number => Math.round(figure * 1000) / 1000;
/** After this many the database looks at the table anew. */
const many = 5000;
/** Up to this many are written before the results stand, so that whoever made a change finds it in the history at once. */
const atOnce = 200;

const moved = (before: Figures, now: Figures): boolean =>
  before.verdict !== now.verdict || Math.abs(before.delayMs - now.delayMs) > 0.5 || Math.abs(before.frameRate - now.frameRate) > 0.2;

/** When results came about: the version of the estate, and the moment where time alone brought them. */
export interface When {
  version: number;
  momentMs: number;
  cause: string;
}

/** The history of verdicts: a row where a crossing's result moved, or is new. */
export class VerdictHistory {
  private readonly logger = new Logger('history');
  /** Crossings of which a row could not be written: the next one counts as moved. */
  private readonly gaps = new Set<string>();
  private writing: Promise<void> = Promise.resolve();

  constructor(private readonly data: DataSource) {}

  /**
   * Keeps what moved. Many rows are written while everything else goes on.
   * @param isFirst whether the history itself is asked what they came to before, as at the start
   */
  async keep(found: readonly Found[], isFirst: boolean, when: When): Promise<void> {
    if (when.version === 0) return;
    const last = isFirst ? await this.remembered(when) : null;
    if (isFirst && !last) return;
    const rows: [string, Summary][] = [];
    await eachInSlices(found, ({ ref: { id }, summary, before }) => {
      const was = this.gaps.has(id) ? undefined : last ? last(id) : before?.summary;
      if (!was || moved(was, summary)) rows.push([id, summary]);
    });
    if (rows.length === 0) return;
    this.writing = this.writing.then(() => this.write(rows, when));
    if (rows.length <= atOnce) await this.writing;
  }

  /** Resolves when everything told so far is written. */
  written(): Promise<void> {
    return this.writing;
  }

  private async write(rows: readonly (readonly [string, Summary])[], { version, momentMs, cause }: When): Promise<void> {
    try {
      for (let i = 0; i < rows.length; i += batch) {
        const part = rows.slice(i, i + batch);
        await this.data.query(
          `INSERT INTO verdict_history (crossing, version, moment, at, verdict, delay_ms, frame_rate, cause)
           SELECT c, $1, $2, now(), v, d, f, $3
           FROM unnest(string_to_array($4, $8), string_to_array($5, $8), string_to_array($6, $8)::real[], string_to_array($7, $8)::real[])
             AS t(c, v, d, f)
           ON CONFLICT DO NOTHING`,
          [
            version,
            momentMs,
            cause,
            // as texts: an array is put into quotes one by one by the driver
            part.map(([id]) => id).join(between),
            part.map(([, { verdict }]) => verdict).join(between),
            part.map(([, { delayMs }]) => rounded(delayMs)).join(between),
            part.map(([, { frameRate }]) => rounded(frameRate)).join(between),
            between,
          ],
        );
        for (const [id] of part) this.gaps.delete(id);
      }
      // after many the database looks at the table anew, or it would read it whole to find one crossing’s
      if (rows.length > many) await this.data.query('ANALYZE verdict_history');
    } catch (error) {
      // what was not written is written when it moves again
      for (const [id] of rows) this.gaps.add(id);
      this.logger.warn(`the history of verdicts has a gap at version ${version}: ${(error as Error).message}`);
    }
  }

  private async remembered({ version }: When): Promise<((id: string) => Figures | undefined) | null> {
    try {
      const rows = (await this.data.query(
        'SELECT DISTINCT ON (crossing) crossing, verdict, delay_ms, frame_rate FROM verdict_history ORDER BY crossing, version DESC, moment DESC',
      )) as { crossing: string; verdict: Summary['verdict']; delay_ms: number; frame_rate: number }[];
      const last = new Map(rows.map((row) => [row.crossing, { verdict: row.verdict, delayMs: row.delay_ms, frameRate: row.frame_rate }]));
      return (id) => last.get(id);
    } catch (error) {
      this.logger.warn(`the history of verdicts has a gap at version ${version}: ${(error as Error).message}`);
      return null;
    }
  }
}
