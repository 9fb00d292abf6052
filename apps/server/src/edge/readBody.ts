import type { IncomingMessage } from 'node:http';
import { ProblemError } from '../problems/problem.js';

/** The longest that the next part of a body is waited for, ms. */
const patienceMs = 15_000;

const tooLarge = (limit: number) =>
  new ProblemError(
    413,
    'Too large',
    `This address takes at most ${limit < 1024 * 1024 ? `${limit / 1024} kB` : `${limit / 1024 / 1024} MB`}.`,
  );

/** The bytes of a body, as long as they stay below a limit and keep coming. What is refused is never held. */
export function readBody(request: IncomingMessage, limit: number): Promise<Buffer> {
  const encoding = request.headers['content-encoding'];
  if (encoding !== undefined && encoding !== 'identity')
    return Promise.reject(new ProblemError(415, 'Not taken', 'Bodies are taken as they are, not compressed.'));
  if (Number(request.headers['content-length'] ?? 0) > limit) return Promise.reject(tooLarge(limit));
  return new Promise((resolve, reject) => {
    let parts: Buffer[] = [];
    let size = 0;
    const end = (settle: () => void) => {
      clearTimeout(timer);
      request.off('data', take).off('end', done).off('error', failed).off('close', failed);
      settle();
    };
    const refuse = (error: Error) =>
      end(() => {
        parts = [];
        request.resume(); // the rest is read over, so that the answer can be
        reject(error);
      });
    const take = (part: Buffer) => {
      size += part.length;
      timer.refresh();
      if (size > limit) refuse(tooLarge(limit));
      else parts.push(part);
    };
    const done = () => end(() => resolve(Buffer.concat(parts, size)));
    const failed = () => refuse(new ProblemError(400, 'Not whole', 'The request ended before its body did.'));
    const timer = setTimeout(() => refuse(new ProblemError(408, 'Too slow', 'The body did not come. Send it again.')), patienceMs);
    request.on('data', take).on('end', done).on('error', failed).on('close', failed);
  });
}
