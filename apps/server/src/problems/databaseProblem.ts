import { ProblemError } from './problem.js';

/** Seconds after which a page tries again while the database is away. */
export const againInS = 3;

export const databaseAway = () =>
  new ProblemError(
    503,
    'The database does not answer',
    `The database of Underpass does not answer; it is tried again every ${againInS} seconds. What you typed stays on the page.`,
    undefined,
    { 'retry-after': String(againInS) },
  );

/** A failure of the database as a problem people can act on, or null where it is none [PostgreSQL manual, appendix A]. */
export function databaseProblem(error: unknown): ProblemError | null {
  const { code, message = '' } = (error ?? {}) as { code?: unknown; message?: string };
  const sqlState = typeof code === 'string' ? code : '';
  if (sqlState === '53100')
    return new ProblemError(507, 'The disk is full', 'The database has no room left; nothing was changed. Make room, then try again.');
  if (sqlState === '53200' || sqlState === '53300' || sqlState === '57014' || sqlState === '40001' || sqlState === '40P01')
    return new ProblemError(503, 'Busy', 'The database had too much to do for this; nothing was changed. Try again.', undefined, {
      'retry-after': String(againInS),
    });
  if (/^(08|57P)/.test(sqlState) || sqlState === '58030') return databaseAway();
  if (/^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/.test(sqlState)) return databaseAway();
  // what the driver says itself of a connection that is gone has no code
  if (
    /connection terminated|not currently accepting connections|timeout exceeded when trying to connect|client has encountered a connection error|not queryable/i.test(
      message,
    )
  )
    return databaseAway();
  return null;
}
