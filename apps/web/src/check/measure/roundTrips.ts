import type { CheckSocket } from './socket.js';

export const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

export interface Samples {
  ms: number[];
  lost: number;
}

/** Round trips at a steady pace, without waiting for the answer before the next. */
export async function sampleRoundTrips(socket: CheckSocket, count: number, everyMs: number, signal: AbortSignal): Promise<Samples> {
  const pending: Promise<number | null>[] = [];
  for (let i = 0; i < count && !signal.aborted; i++) {
    pending.push(socket.ping());
    await sleep(everyMs);
  }
  const all = await Promise.all(pending);
  const ms = all.filter((value): value is number => value !== null);
  return { ms, lost: all.length - ms.length };
}

/** Round trips while something else fills the line; stops when told. */
export function sampleWhile(socket: CheckSocket, everyMs: number): () => Promise<number[]> {
  let on = true;
  const pending: Promise<number | null>[] = [];
  const loop = (async () => {
    while (on) {
      pending.push(socket.ping(5000));
      await sleep(everyMs);
    }
  })();
  return async () => {
    on = false;
    await loop;
    return (await Promise.all(pending)).filter((value): value is number => value !== null);
  };
}
