import { HttpException } from '@nestjs/common';
import { plainMessage, type Problem } from '@underpass/contracts';

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

interface StandardIssue {
  message: string;
  path?: readonly (PropertyKey | { key: PropertyKey })[] | undefined;
}

/** The problem of a request that its schema refuses, field by field. */
export function notValid(issues: readonly StandardIssue[]): ProblemError {
  const fields = issues.map((issue) => ({
    field: (issue.path ?? []).map((part) => String(typeof part === 'object' ? part.key : part)).join('.'),
    problem: plainMessage(issue.message),
  }));
  return new ProblemError(400, 'Not valid', fields.map(({ field, problem }) => `${field || 'The request'}: ${problem}`).join('; '), fields);
}
