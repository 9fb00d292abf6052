import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import type { Observable } from 'rxjs';
import { ProblemError } from '../problems/problem.js';
import { readBody } from './readBody.js';
import { readJson } from './readJson.js';
import { TAKES, usualBody, type Taken } from './takes.js';

const types: Record<Taken['form'], string> = {
  json: 'application/json',
  bytes: 'application/json',
  octets: 'application/octet-stream',
  form: 'application/x-www-form-urlencoded',
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
    if (!String(request.headers['content-type'] ?? '').startsWith(types[form]))
      throw new ProblemError(415, 'Not taken', `This address takes ${types[form]}.`);
    const bytes = await readBody(request, limit);
    if (form === 'bytes' || form === 'octets') return bytes;
    return form === 'form' ? Object.fromEntries(new URLSearchParams(Buffer.from(bytes).toString('utf8'))) : readJson(bytes);
  }
}
