import { useRouteError } from 'react-router';

/** Never a blank page: what failed, and the way on. */
export function PageError() {
  const error = useRouteError();
  const stale = error instanceof Error && /dynamically imported|module script/i.test(error.message);
  return (
    <main className="p-6 max-w-[640px]">
      <h1>{stale ? 'Underpass was renewed' : 'This page could not be shown'}</h1>
      <p className="text-ink-2 mt-2">
        {stale
          ? 'The page comes from an earlier version. Load it again to go on.'
          : 'Something in it failed. Loading it again usually helps; nothing that was applied is lost.'}
      </p>
      <p className="mt-4 flex gap-3">
        <button className="btn btn-primary" onClick={() => location.reload()}>
          Load again
        </button>
        <a className="btn" href="/board">
          Go to the Board
        </a>
      </p>
    </main>
  );
}
