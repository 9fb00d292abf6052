import { useQuery } from '@tanstack/react-query';
import type { Applied, ObjectKind, OriginsAnswer } from '@underpass/contracts';
import { call, orLookAgain } from '../../api/client.js';
import { useCanEdit } from '../../api/session.js';
import { labelOf } from '../../ui/form/labels.js';
import { moment } from '../../ui/times.js';
import { useAction } from '../../ui/useAction.js';
import { intakeQueries } from '../queries.js';
import { sourceText } from './sourceText.js';

/** Where each field of an object is from; what another source says of it stands beneath, and can be taken. */
export function Origins({ kind, id }: { kind: ObjectKind; id: string }) {
  const asked = useQuery(intakeQueries.origins(kind, id));
  const canEdit = useCanEdit();
  const { busy, fault, run } = useAction();
  const rows = asked.data ?? [];
  if (rows.length === 0) return null;
  const take = ({ field, value: was }: OriginsAnswer[number], { source, value: says }: OriginsAnswer[number]['others'][number]) =>
    run(async () => {
      const path = `intake/origins/${kind}/${encodeURIComponent(id)}`;
      const sent = call<Applied>(path, 'POST', { field, source, was, says });
      const applied = await orLookAgain(sent, asked.refetch);
      return { text: `${labelOf(field)} is as ${sourceText(source)} says.`, applied };
    });
  // what is disputed is looked for first
  const shown = [...rows].sort((a, b) => Number(b.others.length > 0) - Number(a.others.length > 0));
  return (
    <section aria-labelledby="origins" className="mt-6">
      <h2 id="origins">Where it is from</h2>
      <p role="alert" className="text-brick empty:hidden">
        {fault}
      </p>
      <dl>
        {shown.map((row) => (
          <div key={row.field} className="border-b border-rule py-1.5">
            <dt className="inline font-semibold">{labelOf(row.field)}</dt>
            <dd className="inline text-ink-2 ml-2">
              {row.by ? `typed by ${row.by}` : sourceText(row.source)}
              {row.at && <span className="text-ink-3">, {moment(row.at)}</span>}
            </dd>
            {row.others.map((other) => (
              <Other key={other.source} row={row} other={other} {...(canEdit ? { onTake: take } : {})} busy={busy} />
            ))}
          </div>
        ))}
      </dl>
    </section>
  );
}

function Other({
  row,
  other,
  busy,
  onTake,
}: {
  row: OriginsAnswer[number];
  other: OriginsAnswer[number]['others'][number];
  busy: boolean;
  onTake?: (row: OriginsAnswer[number], other: OriginsAnswer[number]['others'][number]) => Promise<unknown>;
}) {
  const { field } = row;
  const { source, value, at } = other;
  return (
    <dd className="flex gap-3 items-baseline mt-0.5">
      <span className="flex-1 text-amber break-words min-w-0">
        {sourceText(source)}: {value || 'nothing'}
        <span className="text-ink-3">, {moment(at)}</span>
      </span>
      {onTake && (
        <button
          className="btn btn-small"
          disabled={busy}
          aria-label={`Take ${labelOf(field)} from ${sourceText(source)}`}
          onClick={() => void onTake(row, other)}
        >
          Take this
        </button>
      )}
    </dd>
  );
}
