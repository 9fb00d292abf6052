import { Catch, HttpException, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Problem } from '@underpass/contracts';
import type { Request, Response } from 'express';
import { databaseProblem } from './databaseProblem.js';
import { logFailure } from './lastResort.js';
import { ProblemError } from './problem.js';

/** Every failure leaves as application/problem+json; what is unexpected is logged with an id that is told, without its inside. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const request = host.switchToHttp().getRequest<Request>();
    const known = error instanceof ProblemError ? error : databaseProblem(error);
    const problem = known?.problem ?? this.problemOf(error, request);
    if (response.headersSent) return void response.end();
    sendProblem(response, problem, known?.headers);
  }

  private problemOf(error: unknown, request: Request): Problem {
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
    // such as an address that is not decodable: the web server's own refusals carry their status
    const { status, message } = error as { status?: number; message?: string };
    if (typeof status === 'number' && status >= 400 && status < 500)
      return { type: 'about:blank', title: 'Not valid', status, detail: message ?? 'The request is not valid.' };
    const id = logFailure(`${request.method} ${request.path.replace(/(check|enrol)\/[^/]+/, '$1/…')}`, error);
    return {
      type: 'about:blank',
      title: 'Something failed here',
      status: 500,
      detail: `The server could not finish this. Try again; if it stays, the log of the server says why under ${id}.`,
      id,
    };
  }
}

export function sendProblem(response: Response, problem: Problem, headers: Record<string, string> = {}): void {
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}
