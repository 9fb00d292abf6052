import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { Piscina } from 'piscina';
import type { TransferListItem } from 'node:worker_threads';
import { ProblemError } from '../problems/problem.js';
import type * as Worker from './reading.worker.js';

/** Memory of a reading thread; one that wants more ends, and nobody else does. */
const threadMB = 512;
const usualMs = 10_000;

type Tasks = typeof Worker;
type TaskName = { [K in keyof Tasks]: Tasks[K] extends (task: never) => unknown ? K : never }[keyof Tasks];
type Value<K extends TaskName> = Extract<Awaited<ReturnType<Tasks[K]>>, { value: unknown }>['value'];

/** Reads what people send in threads of its own, with an end of time and memory: whatever the text, others are answered. */
@Injectable()
export class Reading implements OnApplicationShutdown {
  private pool: Piscina | null = null;

  async onApplicationShutdown(): Promise<void> {
    await this.pool?.destroy();
  }

  async run<K extends TaskName>(
    name: K,
    task: Parameters<Tasks[K]>[0],
    options: { withinMs?: number; transfer?: TransferListItem[] } = {},
  ): Promise<Value<K>> {
    this.pool ??= new Piscina({
      filename: new URL('./reading.worker.js', import.meta.url.replace('/src/', '/dist/')).href,
      minThreads: 0,
      maxThreads: 2,
      maxQueue: 20,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: threadMB, stackSizeMb: 4 },
    });
    const signal = AbortSignal.timeout(options.withinMs ?? usualMs);
    let answer: { value: Value<K> } | Worker.Refusal;
    try {
      answer = (await this.pool.run(task, { name, signal, transferList: options.transfer ?? [] })) as typeof answer;
    } catch (error) {
      const { name: kind, code, message } = error as { name?: string; code?: string; message?: string };
      if (kind === 'AbortError' || signal.aborted)
        throw new ProblemError(422, 'Takes too long', 'This takes longer to read than any real file would. Divide it, or mend it.');
      if (code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new ProblemError(422, 'Too large', 'This takes more memory to read than there is for it. Divide it.');
      if (message?.includes('queue is at limit')) throw new ProblemError(429, 'Busy', 'Much is being read at the moment. Try again.');
      throw error;
    }
    if ('refused' in answer) {
      const { status, title, detail, fields } = answer.refused;
      throw new ProblemError(status, title, detail, fields);
    }
    return answer.value;
  }
}
