import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { GuestRow } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { Dialog } from '../ui/Dialog.js';
import { useChosen } from '../ui/useChosen.js';
import { useNotice } from '../ui/Notice.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';

const stateWords = (row: GuestRow): string => {
  switch (row.state) {
    case 'ended':
      return `ended ${row.endsOn}`;
    case 'ending soon':
      return `ends in ${row.daysLeft} ${row.daysLeft === 1 ? 'day' : 'days'}`;
    case 'not accepted':
      return row.invitation === 'sent' ? 'invitation not accepted' : 'invitation not sent';
    case 'not recorded':
      return 'nobody answers for them';
    case 'current':
      return `to ${row.endsOn}`;
  }
};

/** Guests, those past their end first: what they can still reach, and one action that withdraws all of it. */
export function GuestsPage() {
  useTitle('Guests');
  const client = useQueryClient();
  const notice = useNotice();
  const canEdit = useCanEdit();
  const { chosen, setChosen, toggle } = useChosen();
  const [sure, setSure] = useState(false);
  const answer = useQuery({ queryKey: ['access', 'guests'], queryFn: () => call<GuestRow[]>('access/guests') });
  if (answer.isPending) return <Loading what="the guests" />;
  if (!answer.data) return <Failed what="The guests" error={answer.error} onRetry={() => void answer.refetch()} />;
  const rows = answer.data;
  const ended = rows.filter(({ state, reaches }) => state === 'ended' && reaches.length > 0);
  const soon = rows.filter(({ state }) => state === 'ending soon');
  const whom = rows.filter(({ id, reaches }) => chosen.has(id) && reaches.length > 0);
  const withdraw = async () => {
    setSure(false);
    try {
      const { changeId } = await call<{ changeId: string }>('access/guests/withdraw', 'POST', { people: whom.map(({ id }) => id) });
      await client.invalidateQueries();
      setChosen(new Set());
      notice({
        text: `All access of ${whom.length === 1 ? whom[0]?.name : `${whom.length} guests`} is withdrawn from the next sign-in on.`,
        action: { label: 'Take it back', run: () => void call(`changes/${changeId}/undo`, 'POST').then(() => client.invalidateQueries()) },
      });
    } catch (error) {
      notice({ text: (error as Error).message });
    }
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
            Withdraw all access{whom.length > 1 ? ` of ${whom.length}` : ''}
          </button>
        )}
      </div>
      {rows.length === 0 && <Empty>Nobody from outside is in this estate. A person of the kind guest appears here.</Empty>}
      {rows.length > 0 && (
        <div className="overflow-x-auto">
          <table className="w-full mt-3 border-collapse min-w-[900px]">
            <thead>
              <tr className="head">
                <th className="w-7" aria-label="Choose" />
                <th className="text-left font-normal pb-1">Guest</th>
                <th className="text-left font-normal">Access</th>
                <th className="text-left font-normal">Organisation</th>
                <th className="text-left font-normal">Owner</th>
                <th className="text-left font-normal">Can reach</th>
                <th className="text-left font-normal">Not met</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.id} data-row tabIndex={-1} className="border-b border-rule h-[29px] hover:bg-earth">
                  <td>
                    <input type="checkbox" aria-label={`Choose ${row.name}`} checked={chosen.has(row.id)} onChange={() => toggle(row.id)} />
                  </td>
                  <td className="pr-3">
                    <Link className="font-semibold border-b border-dotted border-ink-3" to={`/access/people/${encodeURIComponent(row.id)}`}>
                      {row.name}
                    </Link>
                  </td>
                  <td className={`pr-3 whitespace-nowrap ${row.state === 'current' ? 'text-ink-2' : 'text-amber font-bold'}`}>
                    {stateWords(row)}
                  </td>
                  <td className="pr-3">
                    {row.organisation ?? 'not known'}
                    {row.country && <span className="text-ink-3">, {row.country}</span>}
                  </td>
                  <td className="pr-3">{row.owner?.name ?? 'nobody'}</td>
                  <td className="pr-3">{row.reaches.join(', ')}</td>
                  <td className="pr-3">
                    {row.unmet.length > 0 && row.crossing && (
                      <Link
                        className="text-brick font-semibold border-b border-dotted border-brick"
                        to={`/crossings/${encodeURIComponent(row.crossing)}?q=open`}
                      >
                        {row.unmet.join('; ')}
                      </Link>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
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
          Withdraw all access of {whom.length === 1 ? whom[0]?.name : `${whom.length} guests`}
        </button>
      </Dialog>
    </>
  );
}
