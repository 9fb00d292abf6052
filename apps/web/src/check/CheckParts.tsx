import type { CheckGreeting } from '@underpass/contracts';
import { Mark } from '../shell/Mark.js';
import { Verdict } from '../ui/Verdict.js';
import type { Phase } from './useCheck.js';
import type { headline } from './words.js';

/** A link that cannot be used, and what to do. */
export function LinkGone({ gone, because }: { gone: CheckGreeting['gone'] | undefined; because: string | undefined }) {
  return (
    <main className="min-h-screen p-6 max-w-[640px] mx-auto">
      <p className="flex items-center gap-[9px] font-extrabold text-[17px] mb-8">
        <Mark />
        Underpass
      </p>
      <h1 className="!text-[30px] !leading-[37px]">
        {gone === 'expired' ? 'This link has expired' : gone === 'revoked' ? 'This link was taken back' : 'This link does not work'}
      </h1>
      <p className="text-[17px] leading-7 mt-3 text-ink-2">{because || 'Ask your help desk for a new one. Nothing was measured.'}</p>
    </main>
  );
}

export function CheckHead({ organisation }: { organisation: string }) {
  return (
    <header className="flex justify-between items-center px-6 min-[760px]:px-12 pt-6">
      <span className="flex items-center gap-[9px] font-extrabold text-[17px]">
        <Mark />
        Underpass
      </span>
      <span className="text-[15px] text-ink-2">{organisation} field check</span>
    </header>
  );
}

/** Where the check is, in large letters, and what the person has to know meanwhile. */
export function CheckWords({ phase, head, name }: { phase: Phase; head: ReturnType<typeof headline>; name: string }) {
  return (
    <>
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
    </>
  );
}

/** The one button, and after the check who has its result. */
export function CheckButton({
  phase,
  name,
  helpDesk,
  onStart,
  onHalt,
}: {
  phase: Phase;
  name: string;
  helpDesk: string;
  onStart: () => void;
  onHalt: () => void;
}) {
  const button = 'min-h-[52px] px-[30px] text-[17px] font-bold rounded-[2px] border max-[759px]:w-full';
  const busy = phase.name === 'running' || phase.name === 'queued';
  return (
    <div className="mt-6 flex flex-wrap items-center gap-5">
      {busy ? (
        <button className={`${button} border-ink`} onClick={onHalt}>
          Stop
        </button>
      ) : (
        <button className={`${button} bg-tile border-tile text-paper`} onClick={onStart}>
          {phase.name === 'ready' ? 'Start the check' : 'Check again'}
        </button>
      )}
      {phase.name === 'done' && (
        <span className="text-[15px] text-ink-3">
          {phase.kept
            ? `${helpDesk} has this result${name}. You need not write anything down.`
            : 'The result could not be handed over. Check again.'}
          {!phase.fromDesk && ' It was taken on the server’s own network, so it says nothing about a line.'}
        </span>
      )}
    </div>
  );
}
