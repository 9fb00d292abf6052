import { randomBytes } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';

/** Bytes that do not compress, sent again and again. */
const chunk = randomBytes(64 * 1024);
const longestMs = 10_000;
export const mostTransferBytes = 600_000_000;

export interface TransferCount {
  upBytes: number;
  downBytes: number;
}

/**
 * The two transfers of a field check, before any body parser: an endless download and an upload that is counted and dropped.
 * Only a check that is running has them.
 */
export const transfers =
  (running: (token: string) => TransferCount | undefined) =>
  (request: Request, response: Response, next: NextFunction): void => {
    const match = /^\/([A-Za-z0-9_-]{20,60})\/(down|up)$/.exec(request.path);
    if (!match) return next();
    const count = running(match[1] as string);
    if (!count) {
      response
        .status(409)
        .type('application/problem+json')
        .send(JSON.stringify({ type: 'about:blank', title: 'Not running', status: 409, detail: 'No check is running with this link.' }));
      return;
    }
    if (match[2] === 'down' && request.method === 'GET') return sendDown(count, response);
    if (match[2] === 'up' && request.method === 'POST') return takeUp(count, request, response);
    response.status(405).end();
  };

function sendDown(count: TransferCount, response: Response): void {
  const end = Date.now() + longestMs;
  response.writeHead(200, { 'content-type': 'application/octet-stream', 'cache-control': 'no-store', 'content-encoding': 'identity' });
  const more = () => {
    let room = true;
    while (room) {
      if (Date.now() > end || count.downBytes > mostTransferBytes || response.destroyed) return void response.end();
      count.downBytes += chunk.length;
      room = response.write(chunk);
    }
    response.once('drain', more);
  };
  more();
}

function takeUp(count: TransferCount, request: Request, response: Response): void {
  const timer = setTimeout(() => request.destroy(), longestMs + 5000);
  request.on('data', (part: Buffer) => {
    count.upBytes += part.length;
    if (count.upBytes > mostTransferBytes) request.destroy();
  });
  request.on('end', () => response.status(204).end());
  request.on('close', () => clearTimeout(timer));
  request.on('error', () => undefined);
}
