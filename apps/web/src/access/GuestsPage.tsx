import { useQuery } from '@tanstack/react-query';
import type { GuestRow } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { LongList } from '../ui/LongList.js';
import { Dialog } from '../ui/Dialog.js';
import { useChosen } from '../ui/useChosen.js';
import { useAction } from '../ui/useAction.js';
import { accessQueries } from './queries.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { day } from '../ui/times.js';

const stateWords = (row: GuestRow): string => {
  switch (row.state) {
    case 'ended':
      return `ended ${row.endsOn ? day(row.endsOn) : ''}`;
    case 'ending soon':
      return `ends in ${row.daysLeft} ${row.daysLeft === 1 ? 'day' : 'days'}`;
    case 'not accepted':
      return row.invitation === 'sent' ? 'invitation not accepted' : 'invitation not sent';
    case 'not recorded':
      return 'nobody answers for them';
    case 'current':
      return `to ${row.endsOn ? day(row.endsOn) : ''}`;
  }
};

const nameOf = (guests: readonly GuestRow[]) => (guests.length === 1 ? (guests[0]?.name ?? '') : `${guests.length} guests`);
const grid =
  'grid grid-cols-[28px_minmax(130px,1fr)_minmax(182px,1.1fr)_minmax(150px,1.1fr)_minmax(100px,0.7fr)_minmax(150px,1.4fr)_minmax(130px,0.9fr)]';

/** Guests, those past their end first: what they can still reach, and one action that withdraws all of it. */
export function GuestsPage() {
  useTitle('Guests');
  const { run } = useAction('foot');
  const canEdit = useCanEdit();
  const { chosen, setChosen, toggle } = useChosen();
  const [sure, setSure] = useState(false);
  const answer = useQuery(accessQueries.guests());
  if (answer.isPending) return <Loading what="the guests" />;
  if (!answer.data) return <Failed what="The guests" error={answer.error} onRetry={() => void answer.refetch()} />;
  const rows = answer.data;
  const ended = rows.filter(({ state, reaches }) => state === 'ended' && reaches.length > 0);
  const soon = rows.filter(({ state }) => state === 'ending soon');
  // nobody chosen: those past their end are meant
  const whom = chosen.size ? rows.filter(({ id, reaches }) => chosen.has(id) && reaches.length > 0) : ended;
  const withdraw = () => {
    setSure(false);
    return run(async () => {
      const { changeId } = await call<{ changeId: string }>('access/guests/withdraw', 'POST', { people: whom.map(({ id }) => id) });
      setChosen(new Set());
      return { text: `All access of ${nameOf(whom)} is withdrawn from the next sign-in on.`, changeId };
    });
  };
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <h1>
            {ended.length
              ? `${ended.length} ${ended.length === 1 ? 'guest is' : 'guests are'} past the end date and can still reach ${ended.length === 1 ? ended[0]?.reaches.length : 'something'}${ended.length === 1 ? (ended[0]?.reaches.length === 1 ? ' resource' : ' resources') : ''}`
              : `${rows.length} guests, none past the end date with access left`}
          </h1>
          <p className="text-ink-3">
            {soon.length ? `${soon.length} ${soon.length === 1 ? 'ends' : 'end'} within 30 days. ` : ''}A guest signs in with their own
            organisation’s account. What has to hold for that is under{' '}
            <Link className="link" to="/access/requirements?set=outside-guests">
              Requirement sets
            </Link>
            .
          </p>
        </div>
        {canEdit && (
          <button className="btn" disabled={whom.length === 0} onClick={() => setSure(true)}>
            Withdraw all access{whom.length ? ` of ${nameOf(whom)}` : ''}
          </button>
        )}
      </div>
      {rows.length === 0 && <Empty>Nobody from outside is in this estate. A person of the kind guest appears here.</Empty>}
      {rows.length > 0 && (
        <LongList
          rows={rows}
          label="Guests"
          heads={[{ name: 'Choose', unseen: true }, 'Guest', 'Access', 'Organisation', 'Owner', 'Can reach', 'Not met']}
          grid={grid}
          minWidth="min-w-[900px]"
          height="max-h-[calc(100vh-170px)] mt-3"
          cells={(row) => <GuestCells row={row} chosen={chosen.has(row.id)} onToggle={() => toggle(row.id)} />}
        />
      )}
      <Dialog
        open={sure}
        onOpenChange={setSure}
        title="Withdraw all access"
        description="They are taken out of every group. It can be taken back as one change."
      >
        <ul>
          {whom.map((row) => (
            <li key={row.id}>
              <b>{row.name}</b> loses {row.reaches.join(', ')}
            </li>
          ))}
        </ul>
        <button className="btn mt-4" onClick={() => void withdraw()}>
          Withdraw all access of {nameOf(whom)}
        </button>
      </Dialog>
    </>
  );
}

function GuestCells({ row, chosen, onToggle }: { row: GuestRow; chosen: boolean; onToggle: () => void }) {
  return (
    <>
      <span role="cell" className="flex">
        <input type="checkbox" aria-label={`Choose ${row.name}`} checked={chosen} onChange={onToggle} />
      </span>
      <span role="cell" className="pr-3 truncate">
        <Link className="font-semibold border-b border-dotted border-ink-3" to={`/access/people/${encodeURIComponent(row.id)}`}>
          {row.name}
        </Link>
      </span>
      <span role="cell" className={`pr-3 truncate ${row.state === 'current' ? 'text-ink-2' : 'text-amber font-bold'}`}>
        {stateWords(row)}
      </span>
      <span role="cell" className="pr-3 truncate">
        {row.organisation ?? 'not known'}
        {row.country && <span className="text-ink-3">, {row.country}</span>}
      </span>
      <span role="cell" className="pr-3 truncate">
        {row.owner?.name ?? 'nobody'}
      </span>
      <span role="cell" className="pr-3 truncate" title={row.reaches.join(', ')}>
        {row.reaches.join(', ')}
      </span>
      <span role="cell" className="truncate">
        {row.unmet.length > 0 && row.crossing && (
          <Link
            className="text-brick font-semibold border-b border-dotted border-brick"
            title={row.unmet.join('; ')}
            to={`/crossings/${encodeURIComponent(row.crossing)}?q=open`}
          >
            {row.unmet.join('; ')}
          </Link>
        )}
      </span>
    </>
  );
}
