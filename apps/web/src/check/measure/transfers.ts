import { percentile } from '@underpass/core';
import { sleep } from './roundTrips.js';
import type { CheckSocket } from './socket.js';

const streams = 4;
const longestMs = 8000;
const shortestMs = 3500;

interface Point {
  atMs: number;
  bytes: number;
}

/**
 * The rate after the ramp-up, in Mbit/s; null where nothing moved. It is the median over all windows of a second that begin after
 * the first quarter of the run, so that a moment in which the page itself was held up, and the burst after it, do not count.
 */
export function rateOf(points: readonly Point[]): number | null {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last || last.bytes === first.bytes) return null;
  const lengthMs = last.atMs - first.atMs;
  const windowMs = Math.min(1000, lengthMs / 2);
  const rates: number[] = [];
  let end = 0;
  for (const start of points) {
    if (start.atMs - first.atMs < Math.min(1000, lengthMs / 4)) continue;
    while (end < points.length && (points[end] as Point).atMs - start.atMs < windowMs) end++;
    const stop = points[end];
    if (!stop) break;
    rates.push(((stop.bytes - start.bytes) * 8) / (stop.atMs - start.atMs) / 1000);
  }
  rates.sort((a, b) => a - b);
  return rates.length > 0 ? percentile(rates, 0.5) : ((last.bytes - first.bytes) * 8) / Math.max(1, lengthMs) / 1000;
}

/** Whether the last two seconds ran as the two before: then there is nothing more to learn. */
function steady(points: readonly Point[]): boolean {
  const last = points.at(-1);
  if (!last || last.atMs - (points[0]?.atMs ?? 0) < shortestMs) return false;
  const at = (ago: number) => points.find((point) => point.atMs >= last.atMs - ago) ?? last;
  const [now, before] = [last.bytes - at(1200).bytes, at(1200).bytes - at(2400).bytes];
  return before > 0 && Math.abs(now / before - 1) < 0.05;
}

export async function measureDown(token: string, signal: AbortSignal): Promise<number | null> {
  let bytes = 0;
  const stop = new AbortController();
  const points: Point[] = [];
  const pull = async () => {
    const response = await fetch(`/api/check/${token}/down`, { signal: stop.signal, cache: 'no-store' });
    const reader = response.body?.getReader();
    while (reader && !stop.signal.aborted) {
      const { done, value } = await reader.read();
      if (done) break;
      bytes += value.length;
    }
  };
  const runs = Array.from({ length: streams }, () => pull().catch(() => undefined));
  const started = performance.now();
  while (performance.now() - started < longestMs && !signal.aborted) {
    points.push({ atMs: performance.now(), bytes });
    if (steady(points)) break;
    await sleep(100);
  }
  stop.abort();
  await Promise.all(runs);
  return rateOf(points);
}

/** Upload in pieces that grow until one takes about half a second; the server counts, so nothing is lost in buffers here. */
export async function measureUp(token: string, socket: CheckSocket, signal: AbortSignal): Promise<number | null> {
  const stop = new AbortController();
  const points: Point[] = [];
  const block = new Uint8Array(65_536);
  crypto.getRandomValues(block);
  const push = async () => {
    let blocks = 2;
    while (!stop.signal.aborted) {
      const started = performance.now();
      await fetch(`/api/check/${token}/up`, {
        method: 'POST',
        body: new Blob(Array.from({ length: blocks }, () => block)),
        signal: stop.signal,
        headers: { 'x-underpass': '1', 'content-type': 'application/octet-stream' },
      });
      if (performance.now() - started < 500) blocks = Math.min(256, blocks * 2);
    }
  };
  const runs = Array.from({ length: streams }, () => push().catch(() => undefined));
  const unlisten = socket.listen((message) => {
    if (message.type === 'counted') points.push({ atMs: message.atMs, bytes: message.bytes });
  });
  const started = performance.now();
  while (performance.now() - started < longestMs && !signal.aborted) {
    socket.send({ type: 'count' });
    await sleep(100);
    if (steady(points)) break;
  }
  stop.abort();
  await Promise.all(runs);
  unlisten();
  return rateOf(points);
}
