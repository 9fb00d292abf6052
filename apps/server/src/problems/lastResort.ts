import { Logger } from '@nestjs/common';
import { randomBytes } from 'node:crypto';

const logger = new Logger('last resort');
/** A short id that stands in the log and on the screen, so that the one is found from the other. */
export const failureId = (): string => randomBytes(4).toString('hex');

/** Logs what nobody else caught. @returns the id it is logged with */
export function logFailure(where: string, error: unknown): string {
  const id = failureId();
  logger.error(`${id} ${where}: ${(error as Error | undefined)?.stack ?? String(error)}`);
  return id;
}

/** What falls through everything else is logged and the process goes on: one failing socket or query is nobody else's business. */
export function surviveFailures(process: NodeJS.Process): void {
  process.on('uncaughtException', (error) => logFailure('uncaught', error));
  process.on('unhandledRejection', (error) => logFailure('unhandled', error));
}
