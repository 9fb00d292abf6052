import { faultOfJsonShape } from '@underpass/contracts';
import { ProblemError } from '../problems/problem.js';

const decoder = new TextDecoder('utf-8', { fatal: true });

/** JSON of UTF-8 bytes, within bounds of depth and number. */
export function readJson(bytes: Uint8Array): unknown {
  let text: string;
  try {
    text = decoder.decode(bytes);
  } catch {
    throw new ProblemError(400, 'Not valid', 'The request is not UTF-8 text.');
  }
  const fault = faultOfJsonShape(text);
  if (fault) throw new ProblemError(400, 'Not valid', `The request ${fault}.`);
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new ProblemError(400, 'Not valid', 'The request is not valid JSON.');
  }
}
