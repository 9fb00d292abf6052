import type { Request, Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ProblemError } from '../problems/problem.js';

/** Something long that is kept in pieces. */
export interface Kept {
  total: number;
  /** Changes when the bytes do. */
  tag: string;
  bytes: (from: number, to: number) => AsyncIterable<Uint8Array>;
}

/**
 * The one part that a Range asks for, both ends within: null for the whole, "none" where nothing of it is there. Several parts at once, other
 * units and what is no range at all are passed over, as they may be [RFC 9110 14.2].
 */
export function partOf(range: string | undefined, total: number): { from: number; to: number } | 'none' | null {
  const [, first = '', last = ''] = /^bytes=\s*(\d{0,15})-(\d{0,15})\s*$/.exec(range ?? '') ?? [];
  if (first === '' && last === '') return null;
  // the last so many bytes
  if (first === '') return Number(last) === 0 ? 'none' : { from: Math.max(0, total - Number(last)), to: total - 1 };
  const [from, to] = [Number(first), last === '' ? total - 1 : Math.min(Number(last), total - 1)];
  if (last !== '' && Number(last) < from) return null;
  return from >= total ? 'none' : { from, to };
}

/** Sends the whole or the part that is asked for; a part of another state is not sent, but the whole [RFC 9110 13.1.5, 14]. */
export async function sendPart(request: Request, response: Response, { total, tag, bytes }: Kept): Promise<void> {
  const etag = `"${tag}"`;
  const condition = request.headers['if-range'];
  const part = condition === undefined || condition === etag ? partOf(request.headers.range, total) : null;
  if (part === 'none')
    throw new ProblemError(416, 'Not there', `The file ends at byte ${total}.`, undefined, { 'content-range': `bytes */${total}` });
  const { from, to } = part ?? { from: 0, to: total - 1 };
  response.writeHead(part ? 206 : 200, {
    'content-type': 'application/octet-stream',
    'content-encoding': 'identity',
    'content-length': to + 1 - from,
    'accept-ranges': 'bytes',
    'cache-control': 'no-store',
    etag,
    ...(part ? { 'content-range': `bytes ${from}-${to}/${total}` } : {}),
  });
  // whoever leaves half-way comes again for the rest
  await pipeline(Readable.from(bytes(from, to)), response).catch(() => response.destroy());
}
