import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import type { Observable } from 'rxjs';
import { ProblemError } from '../problems/problem.js';
import { readBody } from './readBody.js';
import { readJson } from './readJson.js';
import { TAKES, usualBody, type Taken } from './takes.js';

const types: Record<Taken['form'], readonly string[]> = {
  json: ['application/json'],
  bytes: ['application/json'],
  octets: ['application/octet-stream'],
  form: ['application/x-www-form-urlencoded'],
  // both are sent [RFC 7644 3.1, 8.2]
  scim: ['application/scim+json', 'application/json'],
};

/** Reads a request's body after it is known whose it is and that they may: guards come before interceptors. */
@Injectable()
export class BodyInterceptor implements NestInterceptor {
  constructor(private readonly reflector: Reflector) {}

  async intercept(context: ExecutionContext, next: CallHandler): Promise<Observable<unknown>> {
    const request = context.switchToHttp().getRequest<Request>();
    if (['POST', 'PUT', 'PATCH'].includes(request.method)) {
      const taken = this.reflector.get<Taken | undefined>(TAKES, context.getHandler()) ?? { limit: usualBody, form: 'json' };
      request.body = await this.read(request, taken);
    }
    return next.handle();
  }

  private async read(request: Request, { limit, form }: Taken): Promise<unknown> {
    const announced = request.headers['transfer-encoding'] !== undefined || Number(request.headers['content-length'] ?? 0) > 0;
    if (!announced) return undefined;
    const given = String(request.headers['content-type'] ?? '');
    if (!types[form].some((type) => given.startsWith(type)))
      throw new ProblemError(415, 'Not taken', `This address takes ${types[form].join(' or ')}.`);
    const bytes = await readBody(request, limit);
    if (form === 'bytes' || form === 'octets') return bytes;
    return form === 'form' ? Object.fromEntries(new URLSearchParams(Buffer.from(bytes).toString('utf8'))) : readJson(bytes);
  }
}
