import type { DraftView } from '@underpass/contracts';
import { Link } from 'react-router';
import { stepsOf } from './stepWords.js';
import { DraftImpact } from './DraftImpact.js';

/** The draft that is worked on, beside the setting: its steps, what it does to everybody, and the way to its own page. */
export function DraftPanel({
  draft,
  fault,
  busy,
  onDrop,
}: {
  draft: DraftView | null;
  fault: string | null;
  busy: boolean;
  onDrop: () => void;
}) {
  return (
    <aside aria-label="Draft" className="min-w-0">
      {fault && (
        <p role="alert" className="text-brick mb-2">
          {fault}
        </p>
      )}
      {!draft ? (
        <>
          <h2>No draft yet</h2>
          <p className="text-ink-2 mt-1">
            Choose a layer and give it a value: a draft begins, on paper, and nothing is applied. What it does to everybody stands here
            then.
          </p>
        </>
      ) : (
        <>
          <h2>Impact of “{draft.name}”</h2>
          <p className="text-ink-2">On paper, nothing is applied.</p>
          {draft.conflicts.length > 0 && (
            <p className="text-amber mt-1">
              Changed since: {draft.conflicts[0]?.text}
              {draft.conflicts.length > 1 && ` and ${draft.conflicts.length - 1} more`}
            </p>
          )}
          <ul className="mt-2 border-t-[1.5px] border-ink">
            {stepsOf(draft.change).map((text) => (
              <li key={text} className="border-b border-rule py-1">
                {text}
              </li>
            ))}
          </ul>
          <p className="flex flex-wrap gap-2 my-3">
            <Link className="btn btn-primary" to={`/settings/drafts/${draft.id}`}>
              Go on to apply it
            </Link>
            <button className="btn" disabled={busy} onClick={onDrop}>
              Drop it
            </button>
          </p>
          <DraftImpact change={draft.change} />
        </>
      )}
    </aside>
  );
}
