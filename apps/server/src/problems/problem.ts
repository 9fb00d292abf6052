import { HttpException } from '@nestjs/common';
import { faultsOfIssues, type Problem } from '@underpass/contracts';

/** A problem told as RFC 9457: what is wrong, where, and what would be right. */
export class ProblemError extends HttpException {
  readonly problem: Problem;

  constructor(
    status: number,
    title: string,
    detail: string,
    fields?: { field: string; problem: string }[],
    readonly headers: Record<string, string> = {},
    more: Partial<Pick<Problem, 'conflict' | 'needs'>> = {},
  ) {
    super(title, status);
    this.problem = { type: 'about:blank', title, status, detail, ...(fields ? { fields } : {}), ...more };
  }
}
export const notFound = (what: string, id: string) => new ProblemError(404, 'Not found', `There is no ${what} “${id}”.`);
export const tooMany = (waitS: number, detail: string) =>
  new ProblemError(429, 'Too many tries', detail, undefined, { 'retry-after': String(Math.max(1, Math.ceil(waitS))) });

/** The problem of a request that its schema refuses, field by field. */
export function notValid(issues: Parameters<typeof faultsOfIssues>[0]): ProblemError {
  const fields = faultsOfIssues(issues).map(({ path, problem }) => ({ field: path.join('.'), problem }));
  return new ProblemError(400, 'Not valid', fields.map(({ field, problem }) => `${field || 'The request'}: ${problem}`).join('; '), fields);
}
