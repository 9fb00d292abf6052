import type { Change, CrossingView, FactsJson } from '@underpass/core';
import { useEffect, useRef, useState } from 'react';

/** The crossing after a change on paper, evaluated in a worker; null while nothing is tried. What could not be worked out is told. */
export function useEvaluation(facts: FactsJson | undefined, change: Change): { view: CrossingView | null; fault: string | null } {
  const worker = useRef<Worker | null>(null);
  const sent = useRef<FactsJson | null>(null);
  const n = useRef(0);
  const [answer, setAnswer] = useState<{ view: CrossingView; change: Change; facts: FactsJson } | null>(null);
  const [fault, setFault] = useState<{ text: string; change: Change } | null>(null);
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
    const listen = ({ data }: MessageEvent<{ n: number; view?: CrossingView; fault?: string }>) => {
      if (data.n !== mine) return;
      if (data.view) setAnswer({ view: data.view, change, facts });
      setFault(data.fault === undefined ? null : { text: data.fault, change });
    };
    const fail = () => setFault({ text: 'the evaluation stopped', change });
    made.addEventListener('message', listen);
    made.addEventListener('error', fail);
    made.postMessage({ n: mine, change, ...(sent.current === facts ? {} : { facts }) });
    sent.current = facts;
    return () => {
      made.removeEventListener('message', listen);
      made.removeEventListener('error', fail);
    };
  }, [facts, change]);
  return {
    view: answer !== null && change.length > 0 && answer.facts === facts ? answer.view : null,
    fault: fault !== null && change.length > 0 && fault.change === change ? fault.text : null,
  };
}
