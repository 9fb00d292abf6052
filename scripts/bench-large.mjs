// What edits cost on a large estate: how long until they are answered and until the Board is right, and how long anybody else waits
// meanwhile. The Board is right when it tells the version of the edit.
import { fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';

const percentile = (values, share) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))];
const p95 = (values) => Math.round(percentile(values, 0.95));

/** Has something small asked for all the time while work goes on; tells how long it took at the longest. */
export async function watched(call, work) {
  const { url, cookie } = call.as();
  const watcher = fork(new URL('./bench-watcher.mjs', import.meta.url), [url, cookie]);
  const told = () =>
    new Promise((resolve, reject) => {
      watcher.once('message', resolve);
      watcher.once('exit', (code) => reject(new Error(`who watches ended with ${code}`)));
    });
  await told();
  const result = await work();
  const longest = told();
  watcher.send('end');
  return { result, longestMs: await longest };
}

/** Asks for what may be long work, and follows it to its end. */
export async function long(call, path, body) {
  const answer = await call(path, 'POST', body);
  if (!answer.job) return answer;
  for (;;) {
    const job = await call(`jobs/${answer.job.id}`);
    if (job.state === 'done') return job.result;
    if (['failed', 'cancelled'].includes(job.state)) throw new Error(`${path}: ${job.message}`);
    await wait(20);
  }
}

/** Memory of a process as the system counts it, MB: now and at the most. */
export function memoryOf(pid) {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8');
  const of = (name) => Math.round(Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1] ?? 0) / 1024);
  return { now: of('VmRSS'), most: of('VmHWM') };
}

/** Times edits one after the other: answered, and until the Board is right. */
async function edits(call, times, one) {
  const [answered, right] = [[], []];
  const { longestMs } = await watched(call, async () => {
    for (let i = 0; i < times; i++) {
      const before = (await call('board')).version;
      const start = performance.now();
      await one(i);
      answered.push(performance.now() - start);
      while ((await call('board')).version === before) await wait(2);
      right.push(performance.now() - start);
    }
  });
  return `${p95(answered)}; ${p95(right)}; ${Math.round(longestMs)}`;
}

export async function benchLarge(call, pid, tell, times = 50) {
  const change = (patches, summary) => call('changes', 'POST', { change: { patches, hypotheses: [] }, summary });
  const what = 'answered, Board right, others wait at the longest, ms (p95 of 50)';
  tell(
    `50 000 endpoints: a setting of one location: ${what}`,
    await edits(call, times, (i) =>
      change([{ do: 'setting', key: 'picture.frameCap', layer: 'location', target: `big-${i % 100}`, value: 15 + (i % 9) }], 'bench'),
    ),
    '60; 250; 100',
  );
  tell(
    `50 000 endpoints: one endpoint edited: ${what}`,
    await edits(call, times, (i) =>
      change(
        [{ do: 'change', kind: 'endpoint', id: `BIG-${31 * i}`, set: { connection: i % 2 ? 'wifi' : 'wired', cores: 2 + (i % 5) } }],
        'bench',
      ),
    ),
    '50; 150; 100',
  );
  const text = `rttMs\n${Array.from({ length: 40 }, (_, i) => 10 + i / 10).join('\n')}\n`;
  tell(
    `50 000 endpoints: one measurement appended: ${what}`,
    await edits(call, times, (i) =>
      call('measurements', 'POST', { text, vantage: 'desk', location: `big-${i % 100}`, endpoint: `BIG-${i % 100}` }),
    ),
    '20 of main thread; –; 100',
  );
  // the worker evaluates the estate when the first work asks for results
  const first = performance.now();
  await long(call, 'impact', {
    change: { patches: [{ do: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 14 }], hypotheses: [] },
  });
  const firstMs = performance.now() - first;
  const impacts = [];
  const { longestMs } = await watched(call, async () => {
    for (let i = 0; i < 5; i++) {
      const start = performance.now();
      await long(call, 'impact', {
        change: {
          patches: [{ do: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 15 + i }],
          hypotheses: [],
        },
      });
      impacts.push(performance.now() - start);
    }
  });
  tell(
    '50 000 endpoints: impact of a setting for everybody, first, median after; others wait at the longest, ms',
    `${Math.round(firstMs)}; ${Math.round(percentile(impacts, 0.5))}; ${Math.round(longestMs)}`,
    '2000; 100',
  );
  const moved = [];
  const moving = await watched(call, async () => {
    for (let i = 0; i < 3; i++) {
      const start = performance.now();
      await long(call, 'access/consequence', {
        change: { patches: [{ do: 'move', leave: 'big-a', join: i % 2 ? 'big-b' : 'posters' }], hypotheses: [] },
      });
      moved.push(performance.now() - start);
    }
  });
  tell(
    '50 000 endpoints: a group of 25 000 moved on paper, median; others wait at the longest, ms',
    `${Math.round(percentile(moved, 0.5))}; ${Math.round(moving.longestMs)}`,
    '–; 100',
  );
  const { now, most } = memoryOf(pid);
  tell('50 000 endpoints: the server’s memory now and at the most, MB', `${now}; ${most}`, '600');
}
