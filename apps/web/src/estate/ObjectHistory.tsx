import type { AuditEntry } from '@underpass/contracts';
import { moment } from '../ui/times.js';

/** Who changed an object and when, and what else there is to say about it. */
export function ObjectHistory({ history, children }: { history: AuditEntry[]; children: React.ReactNode }) {
  return (
    <aside aria-labelledby="who" className="border-t-[1.5px] border-ink pt-3">
      <h2 id="who">Who changed it</h2>
      {history.length === 0 && <p className="text-ink-2 mt-1">Nobody yet.</p>}
      <ol>
        {history.map((entry) => (
          <li key={entry.changeId} className="border-b border-rule py-1.5">
            <span className="text-ink-3 block">
              {moment(entry.at)}, {entry.by}
            </span>
            {entry.summary}
          </li>
        ))}
      </ol>
      {children}
    </aside>
  );
}
