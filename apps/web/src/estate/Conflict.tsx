import { moment } from '../ui/times.js';
import { labelOf } from '../ui/form/labels.js';
import { told, type Merge } from './merge.js';

export interface ConflictView extends Merge {
  by: string;
  at: string;
}

/** Two versions of one object, field by field: one's own stays in the form until something is chosen. */
export function Conflict({
  conflict,
  chosen,
  onChoose,
}: {
  conflict: ConflictView;
  chosen: Record<string, 'mine' | 'theirs'>;
  onChoose: (field: string, which: 'mine' | 'theirs') => void;
}) {
  const { by, at, clashes, followed } = conflict;
  const open = clashes.filter(({ field }) => chosen[field] === undefined).length;
  const show = (text: string) => (text === '' ? <span className="text-ink-3">not known</span> : text);
  return (
    <section aria-labelledby="conflict" role="alert" className="border-l-[5.5px] border-amber-fill pl-4 mb-5">
      <h2 id="conflict">
        {by} changed this too{at && `, ${moment(at)}`}. Nothing was overwritten.
      </h2>
      <p className="text-ink-2 mt-0.5">
        {clashes.length === 0
          ? 'You changed different fields. Both are together below; save them.'
          : open > 0
            ? `Choose for ${open === 1 ? 'the field' : `each of the ${open} fields`} that you both changed, then save.`
            : 'All is chosen. Save it.'}
      </p>
      {clashes.length > 0 && (
        <table className="mt-2 w-full">
          <thead className="head">
            <tr>
              <th scope="col" className="font-normal w-[150px]">
                Field
              </th>
              <th scope="col" className="font-normal">
                Yours
              </th>
              <th scope="col" className="font-normal">
                {by}
              </th>
            </tr>
          </thead>
          <tbody>
            {clashes.map(({ field, ...sides }) => (
              <tr key={field} className="border-b border-rule align-top">
                <th scope="row" className="text-left font-normal text-ink-2 py-1.5">
                  {labelOf(field)}
                </th>
                {(['mine', 'theirs'] as const).map((which) => (
                  <td key={which} className="py-1.5 pr-3">
                    <label className={`flex gap-2 items-baseline break-words ${chosen[field] === which ? 'font-bold' : ''}`}>
                      <input
                        type="radio"
                        name={`conflict-${field}`}
                        aria-label={`${labelOf(field)}: ${which === 'mine' ? 'yours' : by}, ${told(sides[which]) || 'not known'}`}
                        checked={chosen[field] === which}
                        onChange={() => onChoose(field, which)}
                      />
                      <span className="min-w-0 [overflow-wrap:anywhere]">{show(told(sides[which]))}</span>
                    </label>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {followed.length > 0 && (
        <p className="mt-2 text-ink-2">
          Taken over from {by}: {followed.map(({ field, value }) => `${labelOf(field)} ${told(value) || 'not known'}`).join('; ')}.
        </p>
      )}
    </section>
  );
}
