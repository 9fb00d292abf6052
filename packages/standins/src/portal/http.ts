import type { IncomingMessage, ServerResponse } from 'node:http';

const pageHeaders = {
  'content-type': 'text/html; charset=utf-8',
  'cache-control': 'no-store',
  'content-security-policy':
    "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'",
  'x-content-type-options': 'nosniff',
};
const mostForm = 10_000;

export async function formOf(request: IncomingMessage): Promise<URLSearchParams> {
  let text = '';
  for await (const chunk of request) {
    text += String(chunk);
    if (text.length > mostForm) throw new Error('the form is too large');
  }
  return new URLSearchParams(text);
}

export function show(response: ServerResponse, html: string, status = 200, headers: Record<string, string> = {}): void {
  response.writeHead(status, { ...pageHeaders, ...headers }).end(html);
}

export function go(response: ServerResponse, location: string): void {
  response.writeHead(303, { location, 'cache-control': 'no-store' }).end();
}
