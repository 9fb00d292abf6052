import { useEffect, useState } from 'react';
import { isGone } from '../api/client.js';

/** Loading: figures keep their place; after two seconds it says what is awaited. */
export function Loading({ what }: { what: string }) {
  const [long, setLong] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLong(true), 2000);
    return () => clearTimeout(timer);
  }, []);
  return (
    <p role="status" className="text-ink-3 py-6">
      {long ? `Waiting for ${what}` : <span aria-label={`Loading ${what}`}>·····</span>}
    </p>
  );
}

interface FailedProps {
  what: string;
  error: Error;
  page?: boolean;
  onRetry?: () => void;
  leave?: { words: string; act: () => void };
}
/**
 * What failed, and a way to try again; not of what is not there: asked again it is not there either.
 * @param props.page whether it stands for the whole page, and so is its heading
 * @param props.leave a way to what can be shown instead, for what was asked for and is not there
 */
export function Failed({ what, error, page, onRetry, leave }: FailedProps) {
  const told = `${what} could not be shown`;
  return (
    <div role="alert" className="border-t-[1.5px] border-ink py-4 my-4">
      {page ? <h1>{told}</h1> : <p className="font-bold">{told}</p>}
      <p className="text-ink-2">{error.message}</p>
      {onRetry && !isGone({ error }) && (
        <button className="btn mt-3" onClick={onRetry}>
          Try again
        </button>
      )}
      {leave && isGone({ error }) && (
        <button className="btn mt-3" onClick={leave.act}>
          {leave.words}
        </button>
      )}
    </div>
  );
}

interface NotHereProps {
  asked: { isPending: boolean; error: Error | null; refetch: () => Promise<unknown> };
  awaits: string;
  what: string;
}
/** A page in the place of its content: what it waits for, or what of it failed. */
export function NotHere({ asked, awaits, what }: NotHereProps) {
  return (
    <div className="px-6">
      {asked.isPending ? (
        <Loading what={awaits} />
      ) : (
        <Failed page what={what} error={asked.error as Error} onRetry={() => void asked.refetch()} />
      )}
    </div>
  );
}

/** Empty: the ground line, one sentence, one action. */
export function Empty({ children, action }: { children: React.ReactNode; action?: React.ReactNode }) {
  return (
    <div className="border-t-[1.5px] border-ink pt-4 my-4">
      <p className="text-ink-2">{children}</p>
      {action && <div className="mt-3">{action}</div>}
    </div>
  );
}
