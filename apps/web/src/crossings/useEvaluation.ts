import type { Change, CrossingView, FactsJson } from '@underpass/core';
import { useEffect, useRef, useState } from 'react';

/** The crossing after a change on paper, evaluated in a worker; null while nothing is tried. */
export function useEvaluation(facts: FactsJson | undefined, change: Change): CrossingView | null {
  const worker = useRef<Worker | null>(null);
  const sent = useRef<FactsJson | null>(null);
  const n = useRef(0);
  const [answer, setAnswer] = useState<{ view: CrossingView; change: Change; facts: FactsJson } | null>(null);
  useEffect(() => {
    const made = new Worker(new URL('./evaluate.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    sent.current = null;
    return () => {
      made.terminate();
      worker.current = null;
    };
  }, []);
  useEffect(() => {
    if (!facts || change.length === 0 || !worker.current) return;
    const mine = ++n.current;
    const made = worker.current;
    const listen = ({ data }: MessageEvent<{ n: number; view: CrossingView }>) => {
      if (data.n === mine) setAnswer({ view: data.view, change, facts });
    };
    made.addEventListener('message', listen);
    made.postMessage({ n: mine, change, ...(sent.current === facts ? {} : { facts }) });
    sent.current = facts;
    return () => made.removeEventListener('message', listen);
  }, [facts, change]);
  return answer !== null && change.length > 0 && answer.facts === facts ? answer.view : null;
}
