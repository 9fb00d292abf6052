import type { EndedWhy, Figures } from '@underpass/contracts';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { runCheck, stepOrder } from './measure/run.js';
import { CheckSocket } from './measure/socket.js';

export type Phase =
  | { name: 'ready' }
  | { name: 'queued'; ahead: number }
  | { name: 'running'; at: number }
  | { name: 'done'; kept: boolean; fromDesk: boolean }
  | { name: 'broken'; because: EndedWhy | 'no connection' | 'broke off' | 'stopped'; id?: string | undefined };

interface Running {
  phase: Phase;
  figures: Figures;
  canvas: RefObject<HTMLCanvasElement | null>;
  start: () => Promise<void>;
  halt: () => void;
}

/** A field check as it goes on: waits its turn, measures, hands the figures over, and says how it ended. */
export function useCheck(token: string): Running {
  const [phase, setPhase] = useState<Phase>({ name: 'ready' });
  const [figures, setFigures] = useState<Figures>({});
  const canvas = useRef<HTMLCanvasElement>(null);
  const socket = useRef<CheckSocket | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(
    () => () => {
      stop.current?.abort();
      socket.current?.close();
    },
    [],
  );
  const start = async () => {
    setFigures({});
    setPhase({ name: 'running', at: 0 });
    // asked for inside the click, as browsers want it; a refusal costs nothing
    const screens = Promise.race([
      (window as Window & { getScreenDetails?: () => Promise<unknown> }).getScreenDetails?.().catch(() => null),
      new Promise((resolve) => setTimeout(resolve, 15_000)),
    ]);
    const controller = new AbortController();
    stop.current = controller;
    let open: CheckSocket;
    try {
      open = await CheckSocket.open(token);
    } catch {
      return setPhase({ name: 'broken', because: 'no connection' });
    }
    socket.current = open;
    let ended = false;
    open.onClosed = () => {
      if (ended) return;
      controller.abort();
      setPhase({ name: 'broken', because: 'broke off' });
    };
    const unlisten = open.listen((message) => {
      if (message.type === 'queued') setPhase({ name: 'queued', ahead: message.ahead });
      if (message.type === 'ended') {
        ended = true;
        controller.abort();
        setPhase({ name: 'broken', because: message.because, id: message.id });
      }
    });
    const go = open.next('go', 600_000);
    open.send({ type: 'start' });
    if (!(await go) || controller.signal.aborted) return;
    const kept = open.next('kept', 60_000);
    const all = await runCheck(token, open, canvas.current as HTMLCanvasElement, screens, controller.signal, (step, known) => {
      setFigures(known);
      setPhase({ name: 'running', at: stepOrder.indexOf(step) });
    });
    unlisten();
    if (controller.signal.aborted) return;
    setFigures(all);
    const answer = await kept;
    ended = true;
    open.close();
    setPhase({ name: 'done', kept: answer !== null, fromDesk: answer?.fromDesk ?? true });
  };
  const halt = () => {
    stop.current?.abort();
    socket.current?.close();
    setPhase({ name: 'broken', because: 'stopped' });
  };
  return { phase, figures, canvas, start, halt };
}
