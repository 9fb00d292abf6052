import { rateOf, type Point } from './rate.js';
import { sleep } from './roundTrips.js';
import type { CheckSocket } from './socket.js';

const streams = 4;
const longestMs = 8000;
const shortestMs = 3500;

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
