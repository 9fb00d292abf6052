// Somebody else, asking a small thing again and again from a thread of their own: what they wait is what everybody waits.
import { readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';

const { base, cookie, pid } = workerData;
let on = true;
parentPort.once('message', () => (on = false));
const waits = [];
let peakMB = 0;
while (on) {
  const from = performance.now();
  await fetch(`${base}/api/session`, { headers: { cookie } })
    .then((response) => response.arrayBuffer())
    .catch(() => undefined);
  waits.push(performance.now() - from);
  try {
    const row = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
    peakMB = Math.max(peakMB, Number(row?.[1] ?? 0) / 1024);
  } catch {
    // it is being started again
  }
  await new Promise((resolve) => setTimeout(resolve, 10));
}
parentPort.postMessage({ waits, peakMB });
