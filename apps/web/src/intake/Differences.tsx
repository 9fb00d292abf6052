import { useQuery } from '@tanstack/react-query';
import type { Applied, DifferencesAnswer } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { call, orLookAgain } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { labelOf } from '../ui/form/labels.js';
import { moment } from '../ui/times.js';
import { useAction } from '../ui/useAction.js';
import { Wide } from '../ui/Wide.js';
import { intakeQueries } from './queries.js';

const keyOf = (endpoint: string, field: string): string => `${endpoint}\n${field}`;

/** What field checks say otherwise than the estate, to be taken over field by field, of one endpoint or of all. */
export function Differences({ endpoint }: { endpoint?: string }) {
  const asked = useQuery(intakeQueries.differences());
  const canEdit = useCanEdit();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { busy, fault, run } = useAction();
  const rows = (asked.data ?? []).filter((each) => endpoint === undefined || each.endpoint === endpoint);
  if (rows.length === 0) return null;
  const all = rows.flatMap((each) => each.fields.map(({ field }) => keyOf(each.endpoint, field)));
  const wanted = all.filter((key) => chosen.has(key));
  const put = (keys: readonly string[], on: boolean) => {
    const next = new Set(chosen);
    for (const key of keys)
      if (on) next.add(key);
      else next.delete(key);
    setChosen(next);
  };
  const take = () =>
    run(async () => {
      const fields = rows.flatMap(({ endpoint: id, fields: told }) =>
        told.flatMap(({ field, now }) => (chosen.has(keyOf(id, field)) ? [{ endpoint: id, field, now }] : [])),
      );
      const applied = await orLookAgain(call<Applied>('intake/differences', 'POST', { fields }), asked.refetch);
      await asked.refetch();
      setChosen(new Set());
      return { text: `${fields.length === 1 ? '1 field was' : `${fields.length} fields were`} taken over.`, applied };
    });
  return (
    <section aria-labelledby="differences" className="mt-7">
      <h2 id="differences">Field checks say otherwise</h2>
      <Wide label="Field checks say otherwise">
        <table className="w-full border-collapse mt-1">
          <thead className="head">
            <tr>
              {canEdit && (
                <th scope="col" className="w-[34px]">
                  <input
                    type="checkbox"
                    aria-label="All"
                    checked={wanted.length === all.length}
                    onChange={({ target }) => put(all, target.checked)}
                  />
                </th>
              )}
              <th scope="col">Endpoint</th>
              <th scope="col">Field</th>
              <th scope="col">In the estate</th>
              <th scope="col">By the check</th>
              <th scope="col">When</th>
            </tr>
          </thead>
          <tbody>
            {rows.flatMap((each) =>
              each.fields.map((field) => (
                <Row key={keyOf(each.endpoint, field.field)} of={each} field={field} chosen={chosen} onPut={canEdit ? put : null} />
              )),
            )}
          </tbody>
        </table>
      </Wide>
      {canEdit && (
        <p className="mt-2 flex gap-3 items-center">
          <button className="btn" disabled={busy || wanted.length === 0} onClick={() => void take()}>
            Take over {wanted.length === 0 ? 'what is chosen' : wanted.length === 1 ? '1 field' : `${wanted.length} fields`}
          </button>
          <span role="alert" className="text-brick empty:hidden">
            {fault}
          </span>
        </p>
      )}
    </section>
  );
}

function Row({
  of: { endpoint, name, at },
  field: { field, now, found },
  chosen,
  onPut,
}: {
  of: DifferencesAnswer[number];
  field: DifferencesAnswer[number]['fields'][number];
  chosen: ReadonlySet<string>;
  onPut: ((keys: readonly string[], on: boolean) => void) | null;
}) {
  const key = keyOf(endpoint, field);
  return (
    <tr className="border-b border-rule">
      {onPut && (
        <td>
          <input
            type="checkbox"
            aria-label={`Take over ${labelOf(field)} of ${name}`}
            checked={chosen.has(key)}
            onChange={({ target }) => onPut([key], target.checked)}
          />
        </td>
      )}
      <th scope="row" className="text-left font-semibold py-1 pr-4">
        <Link className="hover:underline" to={`/estate/endpoint/${encodeURIComponent(endpoint)}`}>
          {name}
        </Link>
      </th>
      <td className="pr-4">{labelOf(field)}</td>
      <td className="pr-4">{now}</td>
      <td className="pr-4">{found}</td>
      <td className="text-ink-3">{moment(at)}</td>
    </tr>
  );
}
