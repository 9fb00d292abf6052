import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { createHash } from 'node:crypto';
import { DataSource } from 'typeorm';

/** How many wrong tries are free, and how long the next has to wait at most, seconds. */
const kinds = {
  account: { free: 3, mostS: 30 },
  address: { free: 20, mostS: 30 },
  device: { free: 10, mostS: 30 },
} as const;
/** After this long without a try all is forgotten. */
const forgottenAfter = '1 hour';

const keyOf = (kind: keyof typeof kinds, what: string) => `${kind}:${createHash('sha256').update(what).digest('base64url').slice(0, 32)}`;

/**
 * Slows guessing down instead of locking out: after a few wrong tries the next waits twice as long as the one before, up to half a
 * minute. Kept in the database, so that more servers give no more guesses; a try counts before it is judged, so that a hundred at
 * the same moment are a hundred.
 */
@Injectable()
export class Patience {
  constructor(@InjectDataSource() private readonly data: DataSource) {}

  /** Counts a try. @returns seconds it has to wait still; 0 where it may go on */
  async take(kind: keyof typeof kinds, what: string): Promise<number> {
    const { free, mostS } = kinds[kind];
    const key = keyOf(kind, what);
    // the clock, and not now(), which stands still while this one waits for another's turn
    const taken = (await this.data.query(
      `INSERT INTO sign_in_try AS t (key, failures, free_at, last_at) VALUES ($1, 1, now(), now())
       ON CONFLICT (key) DO UPDATE SET
         failures = CASE WHEN t.last_at < now() - interval '${forgottenAfter}' THEN 1 ELSE t.failures + 1 END,
         free_at = now() + make_interval(secs => CASE
           WHEN t.last_at < now() - interval '${forgottenAfter}' OR t.failures + 1 < $2 THEN 0
           ELSE least($3, power(2, least(t.failures + 1 - $2, 20))) END),
         last_at = now()
       WHERE t.free_at <= clock_timestamp() RETURNING key`,
      [key, free, mostS],
    )) as object[];
    if (taken.length > 0) return 0;
    const [row] = (await this.data.query(
      'SELECT greatest(1, ceil(extract(epoch FROM free_at - clock_timestamp())))::int AS wait FROM sign_in_try WHERE key = $1',
      [key],
    )) as { wait: number }[];
    return row?.wait ?? 1;
  }

  /** A right try: the account starts anew, the address gets this try back. */
  async right(kind: keyof typeof kinds, what: string): Promise<void> {
    if (kind === 'address') await this.giveBack(kind, what);
    else await this.data.query('DELETE FROM sign_in_try WHERE key = $1', [keyOf(kind, what)]);
  }

  /** A try that was neither right nor wrong: as if it had not been. */
  async giveBack(kind: keyof typeof kinds, what: string): Promise<void> {
    await this.data.query('UPDATE sign_in_try SET failures = greatest(0, failures - 1), free_at = now() WHERE key = $1', [
      keyOf(kind, what),
    ]);
  }

  async forgetOld(): Promise<void> {
    await this.data.query(`DELETE FROM sign_in_try WHERE last_at < now() - interval '${forgottenAfter}'`);
  }
}
