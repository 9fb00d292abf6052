import { isUtf8 } from 'node:buffer';
import { faultOfJsonShape } from '@underpass/contracts';
import { ProblemError } from '../problems/problem.js';

/** JSON of UTF-8 bytes, within bounds of depth and number. */
export function readJson(bytes: Uint8Array): unknown {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (!isUtf8(buffer)) throw new ProblemError(400, 'Not valid', 'The request is not UTF-8 text.');
  const text = buffer.toString('utf8');
  const fault = faultOfJsonShape(text);
  if (fault) throw new ProblemError(400, 'Not valid', `The request ${fault}.`);
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new ProblemError(400, 'Not valid', 'The request is not valid JSON.');
  }
}
