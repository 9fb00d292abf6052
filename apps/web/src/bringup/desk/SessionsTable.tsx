import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { ClientKind, DeskSessions, Screen } from '@underpass/contracts';
import { useDeferredValue } from 'react';
import { bringupQueries } from '../queries.js';

type Session = DeskSessions['sessions'][number];
const because = ({ left, leftBecause, pixelsOf, shrunk }: Session): string => {
  const pixels = { device: 'pixels of the device', client: 'pixels of the client', setting: 'pixels allowed by the settings' } as const;
  const limits = { setting: 'the settings', 'the same': 'they show the same', client: 'the client', pixels: pixels[pixelsOf] } as const;
  const limit = limits[leftBecause ?? 'client'];
  if (left > 0) return `${left === 1 ? 'one stays' : `${left} stay`} out: ${limit}`;
  return shrunk ? `smaller than it is: ${limit}` : '';
};

/** What a session gets of the screens with each kind of client, and what its picture asks of the line. */
export function SessionsTable({
  endpoint,
  screens,
  clientKind,
  work,
}: {
  endpoint: string;
  screens: readonly Screen[];
  clientKind: ClientKind;
  work: string | null;
}) {
  const asked = useDeferredValue(screens);
  const answer = useQuery({ ...bringupQueries.deskSessions(endpoint, asked), placeholderData: keepPreviousData });
  const rows = answer.data?.sessions ?? [];
  return (
    <section aria-labelledby="sessions" className="mt-6">
      <h2 id="sessions">What a session gets of them</h2>
      {answer.error && (
        <p role="alert" className="text-brick">
          {answer.error.message}
        </p>
      )}
      <table className="mt-1 w-full">
        <thead>
          <tr className="text-left text-ink-3 border-b-[1.5px] border-ink align-bottom">
            <th className="font-normal py-1 pr-4">Client</th>
            <th className="font-normal py-1 pr-4">Screens</th>
            <th className="font-normal py-1 pr-4 text-right">Million pixels</th>
            <th className="font-normal py-1 text-right">Line, Mbit/s: mean, busiest</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.clientKind} className={`border-b border-rule align-top ${row.clientKind === clientKind ? 'font-semibold' : ''}`}>
              <td className="py-1 pr-4">
                {row.clientKind}
                {row.clientKind === clientKind && <span className="block text-ink-3 font-normal">this endpoint’s</span>}
              </td>
              <td className="py-1 pr-4">
                {row.screens.map(({ widthPx, heightPx, refreshHz }, i) => (
                  <span key={i} className="block">
                    {widthPx} × {heightPx}
                    {refreshHz !== null && ` at ${Math.round(refreshHz)} Hz`}
                  </span>
                ))}
                {because(row) !== '' && <span className="block text-amber">{because(row)}</span>}
                {row.mixedScales && <span className="block text-amber">one scale for all</span>}
              </td>
              <td className="py-1 pr-4 text-right">{(row.pixels / 1e6).toFixed(1)}</td>
              <td className="py-1 text-right whitespace-nowrap">
                {row.demand ? `${row.demand.meanMbps.toFixed(1)}, ${row.demand.p95Mbps.toFixed(1)}` : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-ink-3 mt-1">
        {work === null
          ? 'Nobody works here, so that nobody knows what its picture asks of the line.'
          : `Reckoned with the picture of ${work}, by the settings in force.`}
      </p>
    </section>
  );
}
