import { useQuery } from '@tanstack/react-query';
import type { Applied, GuestRow } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { EditableList } from '../estate/EditableList.js';
import { useCanEdit } from '../api/session.js';
import type { ListColumn } from '../ui/list/columns.js';
import { ColumnsMenu } from '../ui/list/ColumnsMenu.js';
import { ExportButton } from '../ui/ExportButton.js';
import { useChosenRows } from '../ui/list/useChosenRows.js';
import { useListAddress } from '../ui/list/useListAddress.js';
import { ViewsMenu } from '../views/ViewsMenu.js';
import { Dialog } from '../ui/Dialog.js';
import { useAction } from '../ui/useAction.js';
import { GuestLetters } from './GuestLetters.js';
import { accessQueries } from './queries.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { day } from '../ui/times.js';

const none = {};
const idOf = ({ id }: GuestRow): string => id;
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
/** Guests, those past their end first: what they can still reach, and one action that withdraws all of it. */
export function GuestsPage() {
  useTitle('Guests');
  const { run } = useAction('foot');
  const canEdit = useCanEdit();
  const [chosen, setChosen] = useChosenRows(none);
  const [letters, setLetters] = useState(false);
  const address = useListAddress(columns);
  const [sure, setSure] = useState(false);
  const answer = useQuery(accessQueries.guests());
  if (answer.isPending) return <Loading what="the guests" />;
  if (!answer.data) return <Failed page what="The guests" error={answer.error} onRetry={() => void answer.refetch()} />;
  const rows = answer.data;
  const ended = rows.filter(({ state, reaches }) => state === 'ended' && reaches.length > 0);
  const soon = rows.filter(({ state }) => state === 'ending soon');
  // nobody chosen: those past their end are meant
  const whom = chosen.size ? rows.filter(({ id, reaches }) => chosen.has(id) && reaches.length > 0) : ended;
  const withdraw = () => {
    setSure(false);
    return run(async () => {
      const applied = await call<Applied>('access/guests/withdraw', 'POST', { people: whom.map(({ id }) => id) });
      setChosen(new Set());
      return { text: `All access of ${nameOf(whom)} is withdrawn from the next sign-in on.`, applied };
    });
  };
  return (
    <>
      <div className="flex items-start gap-x-4 gap-y-2 flex-wrap">
        <div className="flex-1 min-w-[min(100%,300px)]">
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
          <button className="btn !whitespace-normal" disabled={whom.length === 0} onClick={() => setSure(true)}>
            Withdraw all access{whom.length ? ` of ${nameOf(whom)}` : ''}
          </button>
        )}
      </div>
      {rows.length === 0 && <Empty>Nobody from outside is in this estate. A person of the kind guest appears here.</Empty>}
      {rows.length > 0 && (
        <>
          <div className="flex gap-2 justify-end mt-2 no-print">
            <ViewsMenu />
            <ColumnsMenu columns={columns} shown={address.shown} onShown={address.onShown} />
            {canEdit && (
              <ExportButton path="access/people-exports" body={{ show: 'guests' }} name="guests.csv" small>
                Export
              </ExportButton>
            )}
          </div>
          <EditableList
            rows={rows}
            idOf={idOf}
            nameOf={({ name }) => name}
            label="Guests"
            columns={columns}
            shown={address.shown}
            sort={address.sort}
            onSort={address.onSort}
            sorted="here"
            chosen={chosen}
            onChosen={setChosen}
            edits={[{ kind: 'person', label: 'Edit a field', idOf }]}
            actions={
              <button type="button" className="btn btn-small" onClick={() => setLetters(true)}>
                Write their letters
              </button>
            }
            minWidth={900}
            height="max-h-[calc(100vh-200px)]"
            to={(row) => `/access/people/${encodeURIComponent(row.id)}`}
          />
        </>
      )}
      {letters && <GuestLetters guests={rows.filter(({ id }) => chosen.has(id))} onClose={() => setLetters(false)} />}
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

const columns: readonly ListColumn<GuestRow>[] = [
  {
    id: 'name',
    head: 'Guest',
    width: 'minmax(130px,1fr)',
    cell: (row) => <b className="font-semibold">{row.name}</b>,
    text: (row) => row.name,
  },
  {
    id: 'access',
    head: 'Access',
    width: 'minmax(182px,1.1fr)',
    cell: (row) => <span className={row.state === 'current' ? 'text-ink-2' : 'text-amber font-bold'}>{stateWords(row)}</span>,
    text: stateWords,
    sortBy: (row) => row.endsOn ?? '9',
  },
  {
    id: 'organisation',
    head: 'Organisation',
    width: 'minmax(150px,1.1fr)',
    cell: (row) => (
      <>
        {row.organisation ?? 'not known'}
        {row.country && <span className="text-ink-3">, {row.country}</span>}
      </>
    ),
    text: (row) => [row.organisation ?? 'not known', row.country].filter(Boolean).join(', '),
  },
  {
    id: 'owner',
    head: 'Owner',
    width: 'minmax(100px,0.7fr)',
    cell: (row) => row.owner?.name ?? 'nobody',
    text: (row) => row.owner?.name ?? 'nobody',
  },
  {
    id: 'reaches',
    head: 'Can reach',
    width: 'minmax(150px,1.4fr)',
    cell: (row) => <span title={row.reaches.join(', ')}>{row.reaches.join(', ')}</span>,
    text: (row) => row.reaches.join(', '),
    sortBy: (row) => row.reaches.length,
  },
  {
    id: 'unmet',
    head: 'Not met',
    width: 'minmax(130px,0.9fr)',
    cell: (row) =>
      row.unmet.length > 0 &&
      row.crossing && (
        <Link
          className="text-brick font-semibold border-b border-dotted border-brick"
          title={row.unmet.join('; ')}
          to={`/crossings/${encodeURIComponent(row.crossing)}?q=open`}
        >
          {row.unmet.join('; ')}
        </Link>
      ),
    text: (row) => row.unmet.join('; '),
    sortBy: (row) => -row.unmet.length,
  },
];
