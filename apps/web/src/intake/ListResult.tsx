import { kindWords, writeRows, type ListLook, type ListOutcome, type TableMap } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { labelOf } from '../ui/form/labels.js';
import { Wide } from '../ui/Wide.js';
import { HeldFields } from './HeldFields.js';
import { MissingObjects } from './MissingObjects.js';
import { RejectedRows } from './RejectedRows.js';
import { Told } from './Told.js';
import { withValue } from './mapping.js';

/** What is asked for beyond the mapping. */
export interface Wish {
  source?: string;
  over: boolean;
  remove: readonly string[];
}

/** What a list comes to, or came to: how many rows are new, changed, as they were, not taken, and why. */
export function ListResult({
  look,
  map,
  outcome,
  stale,
  wish,
  onWish,
  mends,
  onMend,
  onMap,
  onCheck,
  onTake,
}: {
  look: ListLook;
  map: TableMap;
  outcome: ListOutcome;
  /** The mapping or a cell is another than the outcome is of. */
  stale: boolean;
  wish: Wish;
  onWish: (wish: Wish) => void;
  mends: Record<string, Record<string, string>>;
  onMend: (mends: Record<string, Record<string, string>>) => void;
  onMap: (map: TableMap) => void;
  onCheck: () => void;
  onTake: () => void;
}) {
  const { applied, added, changed, unchanged, rejectedTotal, made, missingTotal, removed, alike, notes } = outcome;
  const leaving = wish.remove.length;
  const count = added + changed;
  const [asked, setAsked] = useState(false);
  const kind = kindWords[map.kind];
  return (
    <section aria-labelledby="outcome" className="mt-5 border-t-[1.5px] border-ink pt-3">
      <div role="status">
        <h2 id="outcome">{applied ? 'Taken in' : 'What it comes to: nothing is written yet'}</h2>
      </div>
      <dl className="flex flex-wrap gap-x-8 gap-y-2 mt-2">
        {(
          [
            ['new', added],
            ['changed', changed],
            ['as they were', unchanged],
            ['not taken', rejectedTotal],
            ['not in this list', missingTotal],
            ...(removed > 0 ? [['removed', removed] as const] : []),
          ] as const
        ).map(([name, n]) => (
          <div key={name}>
            <dt className="text-ink-3">{name}</dt>
            <dd className={`text-[16px] font-bold ${name === 'not taken' && n > 0 ? 'text-brick' : ''}`}>{n}</dd>
          </div>
        ))}
      </dl>
      {notes.length > 0 && (
        <ul className="mt-2 text-ink-2">
          {notes.slice(0, 10).map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
      {!applied && (
        <div className="mt-3 flex gap-3 items-center flex-wrap">
          {stale ? (
            <button className="btn btn-primary" onClick={onCheck}>
              See what it comes to now
            </button>
          ) : (
            <button
              className="btn btn-primary"
              disabled={(count === 0 && leaving === 0) || asked}
              onClick={() => {
                setAsked(true);
                onTake();
              }}
            >
              Take in {count} {count === 1 ? kind.one.toLowerCase() : kind.many.toLowerCase()}
              {leaving > 0 && `, remove ${leaving}`}
            </button>
          )}
          {rejectedTotal > 0 && <TakeRejected look={look} outcome={outcome} />}
          {stale ? (
            <span className="text-ink-2">You changed something since.</span>
          ) : (
            rejectedTotal > 0 && (
              <span className="text-ink-2">
                The {rejectedTotal === 1 ? 'row that is' : `${rejectedTotal} rows that are`} not taken stay out; mend them below, or take
                them with you.
              </span>
            )
          )}
        </div>
      )}
      {applied && (
        <p className="mt-3 flex gap-3">
          <Link className="btn btn-primary" to={`/estate/${map.kind}`}>
            See the {kind.many.toLowerCase()}
          </Link>
          <Link className="btn" to="/estate/gaps">
            What is not known yet
          </Link>
          <Link className="btn" to="/estate/changes">
            Take it back
          </Link>
        </p>
      )}
      <RejectedRows
        look={look}
        map={map}
        outcome={outcome}
        mends={mends}
        onMend={onMend}
        onValue={(column, from, to) => onMap(withValue(map, column, from, to))}
      />
      {alike.length > 0 && (
        <div className="mt-4">
          <h3 className="font-bold">Nearly alike, and perhaps one</h3>
          <ul>
            {alike.map(({ column, field, values: [one = '', other = ''] }) => (
              <li key={`${one}${other}`} className="border-b border-rule py-1 flex flex-wrap gap-3 items-center">
                <span className="flex-1">
                  “{one}” and “{other}” <span className="text-ink-3">{labelOf(field)}</span>
                </span>
                <button className="btn btn-small" disabled={applied} onClick={() => onMap(withValue(map, column, other, one))}>
                  They are one: {one}
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
      <Told head={`What was taken for what, ${outcome.translated.length}`} open={false} show={outcome.translated.length > 0}>
        <Wide label="What was taken for what">
          <table className="w-full border-collapse">
            <thead className="head">
              <tr>
                <th scope="col">In the list</th>
                <th scope="col">Here</th>
                <th scope="col">Field</th>
                <th scope="col" className="text-right">
                  Rows
                </th>
              </tr>
            </thead>
            <tbody>
              {outcome.translated.slice(0, 300).map(({ column, field, from, to, rows }) => (
                <tr key={`${column}\n${from}`} className="border-b border-rule">
                  <td className="py-0.5 pr-4">{from}</td>
                  <td className="pr-4">{to}</td>
                  <td className="pr-4 text-ink-3">{labelOf(field)}</td>
                  <td className="text-right">{rows}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      </Told>
      <Told head={`Made because the list names them, ${made.length}`} open={made.length < 20} show={made.length > 0}>
        <p className="text-ink-2">{made.map(({ name }) => name).join(', ')}</p>
      </Told>
      <HeldFields outcome={outcome} over={wish.over} onOver={(over) => onWish({ ...wish, over })} />
      <MissingObjects outcome={outcome} remove={wish.remove} onRemove={(remove) => onWish({ ...wish, remove })} />
    </section>
  );
}

/** The rows that were not taken as a file, each with its reasons as the last column. */
function TakeRejected({ look, outcome }: { look: ListLook; outcome: ListOutcome }) {
  const reasons = (row: number) =>
    outcome.rejected
      .filter((each) => each.row === row)
      .map(({ column, text, wanted }) => `${column ? `${column}: ` : ''}${text}; wanted: ${wanted}`)
      .join(' | ');
  const text = () =>
    writeRows(
      [...look.head, 'Why not taken'],
      outcome.rejectedRows.map(({ row, cells }) => [...cells, reasons(row)]),
    );
  return (
    <a
      className="btn"
      download={`${look.name.replace(/\.[a-z]+$/i, '')}-not-taken.csv`}
      href={`data:text/csv;charset=utf-8,${encodeURIComponent(`\uFEFF${text()}`)}`}
    >
      Take the rows that are not taken
    </a>
  );
}
