import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Problem } from '@underpass/contracts';
import type { Request, Response } from 'express';
import { ProblemError } from './problem.js';

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
      const status = error.getStatus();
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
