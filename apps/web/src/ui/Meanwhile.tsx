/** Told where somebody else kept what is typed over: both are there, and which goes on is chosen. */
export function Meanwhile({
  what,
  over,
  children,
}: {
  /** What it is, with a capital. */
  what: string;
  over: { isBehind: boolean; goOn: () => void; leave: () => void };
  /** Theirs. */
  children: React.ReactNode;
}) {
  if (!over.isBehind) return null;
  return (
    <section aria-label="Kept by somebody else" className="my-3 border-l-[5.5px] border-amber pl-3">
      <p className="text-amber font-semibold" role="status">
        {what} kept by somebody else meanwhile. Nothing of yours is lost.
      </p>
      <details className="mt-1">
        <summary className="link w-fit cursor-pointer">See theirs</summary>
        {children}
      </details>
      <p className="flex gap-2 mt-2">
        <button className="btn btn-small" onClick={over.leave}>
          Take theirs
        </button>
        <button className="btn btn-small" onClick={over.goOn}>
          Go on with mine, in place of theirs
        </button>
      </p>
    </section>
  );
}
