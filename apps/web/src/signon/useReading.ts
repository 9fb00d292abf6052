import type { SignonRule } from '@underpass/contracts';
import type { HarReading } from '@underpass/core';
import { useState } from 'react';
import type { HarAnswer, HarTask } from './har.worker.js';

const mostBytes = 50_000_000;

interface Reading {
  file: File | null;
  reading: HarReading | null;
  problem: string | null;
  busy: boolean;
  /** Reads a file by these rules, in a worker. */
  read: (file: File, rules: readonly SignonRule[]) => void;
  /** Reads a file as soon as the rules are there: it may come before they have. */
  take: (file: File) => Promise<void>;
}

/** A recorded sign-in that is read in this browser. @param rulesOf the rules, once they are fetched; undefined where they cannot be */
export function useReading(rulesOf: () => Promise<readonly SignonRule[] | undefined>): Reading {
  const [file, setFile] = useState<File | null>(null);
  const [reading, setReading] = useState<HarReading | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const read = (chosen: File, with_: readonly SignonRule[]) => {
    setFile(chosen);
    setProblem(null);
    if (chosen.size > mostBytes) {
      setReading(null);
      setProblem(`${chosen.name} has ${Math.round(chosen.size / 1e6)} MB; at most 50 are read. Record the sign-in alone.`);
      return;
    }
    setBusy(true);
    const worker = new Worker(new URL('./har.worker.ts', import.meta.url), { type: 'module' });
    const done = (answer: HarAnswer) => {
      worker.terminate();
      setBusy(false);
      if ('reading' in answer) setReading(answer.reading);
      else {
        setReading(null);
        setProblem(`${chosen.name} ${answer.problem}.`);
      }
    };
    worker.addEventListener('message', (event: MessageEvent<HarAnswer>) => done(event.data));
    worker.addEventListener('error', () => done({ problem: 'cannot be read' }));
    worker.postMessage({ file: chosen, rules: with_ } satisfies HarTask);
  };
  const take = async (chosen: File) => {
    const rules = await rulesOf();
    if (rules) read(chosen, rules);
    else setProblem('The rules could not be fetched. Check your connection, then choose the file again.');
  };
  return { file, reading, problem, busy, read, take };
}
