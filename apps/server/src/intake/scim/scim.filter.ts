import { Catch, HttpException, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { ScimError } from '@underpass/core';
import type { Request, Response } from 'express';
import { databaseProblem } from '../../problems/databaseProblem.js';
import { logFailure } from '../../problems/lastResort.js';
import { ProblemError } from '../../problems/problem.js';

const schema = 'urn:ietf:params:scim:api:messages:2.0:Error';
export const scimType = 'application/scim+json';

interface Told {
  status: number;
  scimType?: string | undefined;
  detail: string;
  headers?: Record<string, string> | undefined;
}

function toldOf(error: unknown, request: Request): Told {
  if (error instanceof ScimError) return { status: error.fault === 'uniqueness' ? 409 : 400, scimType: error.fault, detail: error.message };
  const known = error instanceof ProblemError ? error : databaseProblem(error);
  if (known) {
    const { status, detail } = known.problem;
    // what the estate would not take is what was sent
    const wrong =
      status === 422 ? { status: 400, scimType: 'invalidValue' } : { status, scimType: status === 400 ? 'invalidSyntax' : undefined };
    return { ...wrong, detail, headers: known.headers };
  }
  if (error instanceof HttpException) return { status: error.getStatus(), detail: error.message };
  const { status } = error as { status?: number };
  if (typeof status === 'number' && status >= 400 && status < 500)
    return { status, scimType: 'invalidSyntax', detail: 'The request is not valid.' };
  const id = logFailure(`${request.method} ${request.path}`, error);
  return { status: 500, detail: `The server could not finish this (${id}).` };
}

/** What is wrong, in the form directories read [RFC 7644 3.12]. */
export function sendScimError(response: Response, { status, scimType: type, detail, headers = {} }: Told): void {
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
  response
    .status(status)
    .type(scimType)
    .send(JSON.stringify({ schemas: [schema], status: String(status), ...(type ? { scimType: type } : {}), detail }));
}

@Catch()
export class ScimFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) return void response.end();
    sendScimError(response, toldOf(error, host.switchToHttp().getRequest<Request>()));
  }
}
