import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Problem } from '@underpass/contracts';
import type { Request, Response } from 'express';
import { ProblemError } from './problem.js';

interface StandardIssue {
  message: string;
  path?: readonly (PropertyKey | { key: PropertyKey })[];
}

/** Every failure leaves as application/problem+json; what is unexpected is logged and told without its inside. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const request = host.switchToHttp().getRequest<Request>();
    const problem = this.problemOf(error, request);
    if (response.headersSent) return void response.end();
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  }

  private problemOf(error: unknown, request: Request): Problem {
    if (error instanceof ProblemError) return error.problem;
    if (error instanceof HttpException) {
      const body = error.getResponse();
      const issues = issuesOf(body) ?? issuesOf((error as { cause?: unknown }).cause);
      const fields = issues?.map((issue) => ({
        field: (issue.path ?? []).map((part) => String(typeof part === 'object' ? part.key : part)).join('.'),
        problem: issue.message.replace(/^Invalid input: /, ''),
      }));
      const status = error.getStatus();
      if (fields?.length)
        return {
          type: 'about:blank',
          title: 'Not valid',
          status,
          detail: fields.map(({ field, problem }) => `${field || 'The request'}: ${problem}`).join('; '),
          fields,
        };
      const told = typeof body === 'string' ? body : ((body as { message?: string | string[] }).message ?? error.message);
      return {
        type: 'about:blank',
        title: error.name.replace(/Exception$/, ''),
        status,
        detail: Array.isArray(told) ? told.join('; ') : told,
      };
    }
    const size = error as { type?: string; status?: number };
    if (size.type === 'entity.too.large')
      return { type: 'about:blank', title: 'Too large', status: 413, detail: 'The request is larger than this address takes.' };
    if (size.type === 'entity.parse.failed')
      return { type: 'about:blank', title: 'Not valid', status: 400, detail: 'The request is not valid JSON.' };
    this.logger.error(`${request.method} ${request.path}: ${(error as Error)?.stack ?? String(error)}`);
    return {
      type: 'about:blank',
      title: 'Something failed here',
      status: 500,
      detail: 'The server could not finish this. Try again; if it stays, the log of the server says why.',
    };
  }
}

function issuesOf(body: unknown): StandardIssue[] | undefined {
  if (typeof body !== 'object' || body === null) return undefined;
  const { issues, errors, message } = body as { issues?: unknown; errors?: unknown; message?: unknown };
  for (const list of [issues, errors, message])
    if (Array.isArray(list) && list.length && typeof list[0] === 'object' && 'message' in (list[0] as object))
      return list as StandardIssue[];
  return undefined;
}
