import { useEffect, useState } from 'react';

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

/** What failed, and a way to try again. */
export function Failed({ what, error, onRetry }: { what: string; error: Error; onRetry?: () => void }) {
  return (
    <div role="alert" className="border-t-[1.5px] border-ink py-4 my-4">
      <p className="font-bold">{what} could not be shown</p>
      <p className="text-ink-2">{error.message}</p>
      {onRetry && (
        <button className="btn mt-3" onClick={onRetry}>
          Try again
        </button>
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
