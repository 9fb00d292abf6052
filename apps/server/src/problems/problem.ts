import { HttpException } from '@nestjs/common';
import type { Problem } from '@underpass/contracts';

/** A problem told as RFC 9457: what is wrong, where, and what would be right. */
export class ProblemError extends HttpException {
  constructor(
    status: number,
    title: string,
    detail: string,
    readonly fields?: { field: string; problem: string }[],
  ) {
    super(title, status);
    this.problem = { type: 'about:blank', title, status, detail, ...(fields ? { fields } : {}) };
  }
  readonly problem: Problem;
}
export const notFound = (what: string, id: string) => new ProblemError(404, 'Not found', `There is no ${what} “${id}”.`);
