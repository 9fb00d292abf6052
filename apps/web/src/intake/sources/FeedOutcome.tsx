import type { FeedLast } from '@underpass/contracts';
import { soMany } from '../../ui/figures.js';
import { moment } from '../../ui/times.js';

/** What a directory came to last. */
export function FeedOutcome({
  last: { state, message, people, groups, added, changed, left, held, notes },
  at,
}: {
  last: FeedLast;
  at: string;
}) {
  const figures = [
    `${soMany(people, 'person', 'people')} and ${soMany(groups, 'group')}`,
    ...(added ? [`${added} new`] : []),
    ...(changed ? [`${changed} changed`] : []),
    ...(left ? [`${left} left`] : []),
    ...(added + changed + left === 0 ? ['nothing new'] : []),
    ...(held ? [`${soMany(held, 'field')} as another source has ${held === 1 ? 'it' : 'them'}`] : []),
  ];
  return (
    <>
      <p className={state === 'done' ? 'text-ink-2' : state === 'stopped' ? 'text-amber' : 'text-brick'}>
        {state === 'done' ? `Last ${moment(at)}: ${figures.join(', ')}.` : `${moment(at)}: ${message ?? ''}`}
      </p>
      {notes.length > 0 && (
        <details>
          <summary className="cursor-pointer text-ink-2">{notes.length === 1 ? '1 remark' : `${notes.length} remarks`}</summary>
          <ul className="text-ink-2">
            {notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
