import { useQuery } from '@tanstack/react-query';
import type { Change } from '@underpass/contracts';
import { isEmpty, type CrossingView, type Slice } from '@underpass/core';
import { useEffect, useRef, useState } from 'react';
import { call } from '../api/client.js';
import { regional } from '../ui/figures.js';
import type { TryAnswer, TryMessage } from './evaluate.worker.js';
import { crossingQueries } from './queries.js';

interface Tried {
  view: CrossingView | null;
  fault: string | null;
}
const gone = 'this crossing would be no more';

/**
 * The crossing after a change on paper; null while nothing is tried. A worker evaluates it on the part of the estate that the
 * crossing rests on; what goes beyond that is asked of the server. What could not be worked out is told.
 */
export function useEvaluation(id: string, version: number, change: Change): Tried {
  const path = `crossings/${encodeURIComponent(id)}`;
  const slice = useQuery(crossingQueries.slice(id, version));
  const worker = useRef<Worker | null>(null);
  const sent = useRef<Slice | null>(null);
  const n = useRef(0);
  const [tried, setTried] = useState<(Tried & { change: Change; version: number }) | null>(null);
  useEffect(() => {
    const made = new Worker(new URL('./evaluate.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    sent.current = null;
    return () => {
      made.terminate();
      worker.current = null;
    };
  }, []);
  const ready = slice.data?.slice;
  const settled = !slice.isPending;
  useEffect(() => {
    const made = worker.current;
    if (isEmpty(change) || !made || !settled) return;
    const mine = ++n.current;
    const tell = (answer: Tried) => n.current === mine && setTried({ ...answer, view: regional(answer.view), change, version });
    const askServer = () =>
      void call<{ view: CrossingView | null }>(`${path}/try`, 'POST', { change }).then(
        ({ view }) => tell({ view, fault: view ? null : gone }),
        (error: Error) => tell({ view: null, fault: error.message }),
      );
    const listen = ({ data }: MessageEvent<TryAnswer>) => {
      if (data.n !== mine) return;
      if ('beyond' in data) askServer();
      else if ('fault' in data) tell({ view: null, fault: data.fault });
      else tell({ view: data.view, fault: data.view ? null : gone });
    };
    const fail = () => tell({ view: null, fault: 'the evaluation stopped' });
    made.addEventListener('message', listen);
    made.addEventListener('error', fail);
    const message: TryMessage = { n: mine, change };
    if (ready && sent.current !== ready) message.slice = ready;
    made.postMessage(message);
    sent.current = ready ?? null;
    return () => {
      made.removeEventListener('message', listen);
      made.removeEventListener('error', fail);
    };
  }, [path, settled, ready, change, version]);
  // what was tried last stands until the next figures do, so that nothing flickers
  const current = tried !== null && !isEmpty(change) && tried.version === version ? tried : null;
  return { view: current?.view ?? null, fault: current?.change === change ? current.fault : null };
}
