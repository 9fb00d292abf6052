import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { finalize, type Observable } from 'rxjs';
import { ProblemError } from '../problems/problem.js';
import type { SignedRequest } from '../signin/session.guard.js';
import { AT_ONCE, type AtOnceLimit } from './takes.js';

/** Work that is long or large runs a few at a time: one person cannot take what is there for all. */
@Injectable()
export class AtOnceInterceptor implements NestInterceptor {
  private readonly running = new Map<string, number>();

  constructor(private readonly reflector: Reflector) {}

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const limit = this.reflector.get<AtOnceLimit | undefined>(AT_ONCE, context.getHandler());
    if (!limit) return next.handle();
    const { user } = context.switchToHttp().getRequest<SignedRequest>();
    const keys = [`${limit.what}/${user.id}`, limit.what] as const;
    const count = (key: string) => this.running.get(key) ?? 0;
    if (count(keys[0]) >= limit.person || count(keys[1]) >= limit.all)
      throw new ProblemError(429, 'Busy', `Your ${limit.what} has to wait: another one is running. Try again when it is done.`, undefined, {
        'retry-after': '5',
      });
    for (const key of keys) this.running.set(key, count(key) + 1);
    return next.handle().pipe(
      finalize(() => {
        for (const key of keys) {
          if (count(key) > 1) this.running.set(key, count(key) - 1);
          else this.running.delete(key);
        }
      }),
    );
  }
}
