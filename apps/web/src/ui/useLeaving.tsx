import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { Dialog } from './Dialog.js';

/**
 * Asks once before a page is left on which something is typed: the browser for another site or a reload, the page itself for
 * another of its screens.
 * @param onLeave called where it is left all the same
 * @returns the question, to be shown on the page
 */
export function useLeaving(moved: boolean, onLeave?: () => void): React.ReactNode {
  useEffect(() => {
    if (!moved) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [moved]);
  const blocker = useBlocker(({ currentLocation, nextLocation }) => moved && currentLocation.pathname !== nextLocation.pathname);
  if (blocker.state !== 'blocked') return null;
  return (
    <Dialog open onOpenChange={(open) => !open && blocker.reset()} title="Leave what you typed?" closable={false}>
      <p>What you typed on this page is not saved.</p>
      <div className="flex gap-3 mt-4">
        <button className="btn btn-primary" onClick={() => blocker.reset()}>
          Stay here
        </button>
        <button
          className="btn"
          onClick={() => {
            onLeave?.();
            blocker.proceed();
          }}
        >
          Leave it
        </button>
      </div>
    </Dialog>
  );
}
