import { useQuery } from '@tanstack/react-query';
import type { CheckGreeting, Figures } from '@underpass/contracts';
import { useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { call } from '../api/client.js';
import { Mark } from '../shell/Mark.js';
import { Verdict } from '../ui/Verdict.js';
import { CheckDrawing } from './CheckDrawing.js';
import { runCheck, stepOrder } from './measure/run.js';
import { CheckSocket } from './measure/socket.js';
import { headline, tell } from './words.js';

type Phase =
  | { name: 'ready' }
  | { name: 'queued'; ahead: number }
  | { name: 'running'; at: number }
  | { name: 'done'; kept: boolean; fromDesk: boolean }
  | { name: 'broken'; because: string };

/** The field check: a page for people who are no engineers. One button; it says what it does not look at. */
export function CheckPage() {
  const { token = '' } = useParams();
  const greeting = useQuery({
    queryKey: ['check', token],
    queryFn: () => call<CheckGreeting>(`check/${token}`),
    staleTime: Infinity,
    refetchOnReconnect: false,
  });
  useEffect(() => {
    document.title = 'Field check';
  }, []);
  if (greeting.isPending) return <main className="p-6 text-ink-3">·····</main>;
  if (!greeting.data || greeting.data.gone)
    return (
      <main className="min-h-screen p-6 max-w-[640px] mx-auto">
        <p className="flex items-center gap-[9px] font-extrabold text-[17px] mb-8">
          <Mark />
          Underpass
        </p>
        <h1 className="!text-[30px] !leading-[37px]">
          {greeting.data?.gone === 'expired'
            ? 'This link has expired'
            : greeting.data?.gone === 'revoked'
              ? 'This link was taken back'
              : 'This link does not work'}
        </h1>
        <p className="text-[17px] leading-7 mt-3 text-ink-2">
          {greeting.error && greeting.error.message !== ''
            ? greeting.error.message
            : 'Ask your help desk for a new one. Nothing was measured.'}
        </p>
      </main>
    );
  return <Check token={token} greeting={greeting.data} />;
}

function Check({ token, greeting }: { token: string; greeting: CheckGreeting }) {
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
      return setPhase({ name: 'broken', because: 'The connection could not be opened. Check that you are online, then try again.' });
    }
    socket.current = open;
    let ended = false;
    open.onClosed = () => {
      if (ended) return;
      controller.abort();
      setPhase({ name: 'broken', because: 'The connection broke off. What was measured so far is kept.' });
    };
    const unlisten = open.listen((message) => {
      if (message.type === 'queued') setPhase({ name: 'queued', ahead: message.ahead });
      if (message.type === 'ended') {
        ended = true;
        controller.abort();
        setPhase({ name: 'broken', because: message.because });
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
    setPhase({ name: 'broken', because: 'You stopped it. What was measured so far is kept.' });
  };
  const told = tell(figures);
  const at = phase.name === 'running' ? phase.at : -1;
  const head = headline(told, greeting.home);
  const name = greeting.firstName ? `, ${greeting.firstName}` : '';
  const busy = phase.name === 'running' || phase.name === 'queued';
  const button = 'min-h-[52px] px-[30px] text-[17px] font-bold rounded-[2px] border max-[759px]:w-full';
  return (
    <main className="min-h-screen flex flex-col">
      <header className="flex justify-between items-center px-6 min-[760px]:px-12 pt-6">
        <span className="flex items-center gap-[9px] font-extrabold text-[17px]">
          <Mark />
          Underpass
        </span>
        <span className="text-[15px] text-ink-2">{greeting.organisation} field check</span>
      </header>
      <section
        className="px-6 min-[760px]:px-0 w-full max-w-[880px] mx-auto pt-10 min-[760px]:pt-[68px] pb-8 min-h-[330px]"
        aria-live="polite"
      >
        {phase.name === 'done' && (
          <p className="text-[17px] mb-1">
            <Verdict verdict={head.verdict} />
          </p>
        )}
        <h1 className="!text-[30px] !leading-[37px] min-[760px]:!text-[38px] min-[760px]:!leading-[46px] !font-[750] max-w-[720px]">
          {phase.name === 'ready' && `Check the way to your desktop${name}`}
          {phase.name === 'queued' && 'Others are being checked'}
          {phase.name === 'running' && `Checking the way to your desktop${name}`}
          {phase.name === 'done' && head.text}
          {phase.name === 'broken' && 'The check did not finish'}
        </h1>
        <p className="text-[17px] leading-7 mt-3 text-ink-2 max-w-[720px]">
          {phase.name === 'ready' &&
            'Stay where you normally work and press the button. It takes up to 40 seconds. It measures how quick, how steady and how wide the way is, and how your browser draws. Your browser may ask whether it may see your screens; you may refuse.'}
          {phase.name === 'queued' &&
            `${phase.ahead === 1 ? 'One is' : `${phase.ahead} are`} ahead of you. Yours starts by itself; keep this page open.`}
          {phase.name === 'running' &&
            `${phase.at + 1} of 5, about ${Math.max(5, 26 - phase.at * 5)} seconds left. Keep this page open and stay where you normally work.`}
          {phase.name === 'done' && head.helps && (
            <>
              <b className="text-ink">What helps:</b> {head.helps}
            </>
          )}
          {phase.name === 'broken' && phase.because}
        </p>
        <div className="mt-6 flex flex-wrap items-center gap-5">
          {busy ? (
            <button className={`${button} border-ink`} onClick={halt}>
              Stop
            </button>
          ) : (
            <button className={`${button} bg-tile border-tile text-paper`} onClick={() => void start()}>
              {phase.name === 'ready' ? 'Start the check' : 'Check again'}
            </button>
          )}
          {phase.name === 'done' && (
            <span className="text-[15px] text-ink-3">
              {phase.kept
                ? `${greeting.helpDesk ?? 'Your help desk'} has this result${name}. You need not write anything down.`
                : 'The result could not be handed over. Check again.'}
              {!phase.fromDesk && ' It was taken on the server’s own network, so it says nothing about a line.'}
            </span>
          )}
        </div>
      </section>
      <div className="flex-1 flex flex-col mt-auto">
        <CheckDrawing told={told} at={at} home={greeting.home} place={greeting.place ? `at ${greeting.place}` : ''} />
        <div className="bg-earth flex-1 px-6 min-[760px]:px-0 pb-8 pt-4">
          <p className="max-w-[880px] mx-auto text-[14px] leading-5 text-ink-2">
            Nothing is installed. The check measures the way only; it does not look at your files, your screen or your camera, and keeps no
            address of yours.
          </p>
        </div>
      </div>
      <canvas ref={canvas} width="320" height="180" aria-hidden className="fixed -left-[9999px] top-0" />
    </main>
  );
}
