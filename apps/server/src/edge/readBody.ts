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

/** Where the parts of a body are put: in one piece from the start where its length is announced, so that it is never held twice. */
function piece(announced: number, limit: number): { put: (part: Buffer) => void; whole: () => Uint8Array } {
  // shared, so that a reading thread sees it without a copy
  let bytes = new Uint8Array(new SharedArrayBuffer(announced));
  let size = 0;
  return {
    put: (part) => {
      if (size + part.length > bytes.length) {
        const larger = new Uint8Array(new SharedArrayBuffer(Math.min(limit, Math.max(64 * 1024, 2 * bytes.length, size + part.length))));
        larger.set(bytes.subarray(0, size));
        bytes = larger;
      }
      bytes.set(part, size);
      size += part.length;
    },
    whole: () => bytes.subarray(0, size),
  };
}

/** The bytes of a body, as long as they stay below a limit and keep coming. What is refused is never held. */
export function readBody(request: IncomingMessage, limit: number): Promise<Uint8Array> {
  const encoding = request.headers['content-encoding'];
  if (encoding !== undefined && encoding !== 'identity')
    return Promise.reject(new ProblemError(415, 'Not taken', 'Bodies are taken as they are, not compressed.'));
  const announced = Number(request.headers['content-length'] ?? 0);
  if (announced > limit) return Promise.reject(tooLarge(limit));
  return new Promise((resolve, reject) => {
    const parts = piece(announced, limit);
    let size = 0;
    const end = (settle: () => void) => {
      clearTimeout(timer);
      request.off('data', take).off('end', done).off('error', failed).off('close', failed);
      settle();
    };
    const refuse = (error: Error) =>
      end(() => {
        request.resume(); // the rest is read over, so that the answer can be
        reject(error);
      });
    const take = (part: Buffer) => {
      size += part.length;
      timer.refresh();
      if (size > limit) refuse(tooLarge(limit));
      else parts.put(part);
    };
    const done = () => end(() => resolve(parts.whole()));
    const failed = () => refuse(new ProblemError(400, 'Not whole', 'The request ended before its body did.'));
    const timer = setTimeout(() => refuse(new ProblemError(408, 'Too slow', 'The body did not come. Send it again.')), patienceMs);
    request.on('data', take).on('end', done).on('error', failed).on('close', failed);
  });
}
