import type { ListOutcome } from '@underpass/contracts';
import { Link } from 'react-router';
import { labelOf } from '../ui/form/labels.js';
import { moment } from '../ui/times.js';
import { Wide } from '../ui/Wide.js';
import { sourceText } from './sources/sourceText.js';
import { Told } from './Told.js';

/** What the list says otherwise and stays as it is, because another source decides; and a way to take it all the same. */
export function HeldFields({
  outcome: { applied, held, heldTotal },
  over,
  onOver,
}: {
  outcome: ListOutcome;
  over: boolean;
  onOver: (over: boolean) => void;
}) {
  return (
    <Told
      head={`${heldTotal === 1 ? '1 field that stays' : `${heldTotal} fields that stay`}: another source decides`}
      open={heldTotal > 0 && !applied}
      show={heldTotal > 0 || (over && !applied)}
    >
      {!applied && (
        <label className="flex gap-2 items-center font-semibold py-1">
          <input type="checkbox" checked={over} onChange={({ target }) => onOver(target.checked)} />
          Take what the list says all the same
        </label>
      )}
      {heldTotal > 0 && (
        <Wide label="Fields that stay">
          <table className="w-full border-collapse">
            <thead className="head">
              <tr>
                <th scope="col">Whose</th>
                <th scope="col">Field</th>
                <th scope="col">In the list</th>
                <th scope="col">Stays</th>
                <th scope="col">Says who</th>
              </tr>
            </thead>
            <tbody>
              {held.slice(0, 300).map(({ id, name, field, value, stands, source, at }) => (
                <tr key={`${id}\n${field}`} className="border-b border-rule">
                  <th scope="row" className="text-left font-semibold py-0.5 pr-4">
                    {name}
                  </th>
                  <td className="pr-4">{labelOf(field)}</td>
                  <td className="pr-4">{value}</td>
                  <td className="pr-4">{stands || 'nothing'}</td>
                  <td className="text-ink-3">
                    {sourceText(source)}
                    {at && `, ${moment(at)}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
      <p className="text-ink-3 mt-1">
        Which source decides is set under{' '}
        <Link className="link" to="/estate/sources">
          Where facts come from
        </Link>
        .
      </p>
    </Told>
  );
}
