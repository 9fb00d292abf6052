import { ProblemError } from '../problems/problem.js';

/** The bytes of a body that a route takes as bytes. */
export function bytesOf(body: unknown): Uint8Array {
  if (body instanceof Uint8Array) return body;
  throw new ProblemError(400, 'Not valid', 'The request: is missing');
}
