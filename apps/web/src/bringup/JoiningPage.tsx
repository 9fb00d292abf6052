import { useQuery } from '@tanstack/react-query';
import type { JoiningCard } from '@underpass/contracts';
import { useState } from 'react';
import { useParams } from 'react-router';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useTitle } from '../shell/useTitle.js';
import { NotHere } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { ScanCheck } from './ScanCheck.js';
import { Sheet, toPlace } from './Sheet.js';
import { bringupQueries } from './queries.js';

/** The card by which somebody joins the Wi-Fi of a place: shown when it is asked for, which is logged; kept nowhere. */
export function JoiningPage() {
  const { place = '' } = useParams();
  const canEdit = useCanEdit();
  const named = useQuery(bringupQueries.place(place));
  const name = named.data?.name ?? place;
  useTitle(`Wi-Fi of ${name}`);
  const [card, setCard] = useState<JoiningCard | null>(null);
  const { busy, fault, run } = useAction();
  const show = () =>
    run(async () => {
      setCard(await call<JoiningCard>(`bringup/places/${encodeURIComponent(place)}/joining`, 'POST'));
    });
  if (!named.data) return <NotHere asked={named} awaits="the network of this place" what="This place" />;
  return (
    <Sheet back={toPlace(place, name)}>
      <h1>{card ? `Join “${card.name}”` : `Joining the Wi-Fi of ${name}`}</h1>
      {!card && (
        <>
          <p className="text-ink-2 max-w-[72ch]">
            A code for telephones and tablets, and the same in steps to read to somebody. The card has the key of the network: that it was
            shown is logged.
          </p>
          {canEdit ? (
            <button className="btn btn-primary mt-3" disabled={busy} onClick={() => void show()}>
              Show the card
            </button>
          ) : (
            <p className="mt-3">Ask an engineer for it.</p>
          )}
          {fault && (
            <p role="alert" className="text-brick mt-2">
              {fault}
            </p>
          )}
        </>
      )}
      {card && <Card card={card} />}
      {named.data.network && <ScanCheck network={named.data.network} />}
    </Sheet>
  );
}

function Card({ card }: { card: JoiningCard }) {
  return (
    <div className="grid gap-x-10 gap-y-4 mt-3 min-[800px]:grid-cols-[260px_minmax(0,1fr)]">
      <div>
        <img
          alt={`Code to join ${card.name}`}
          className="block w-[240px] bg-[#fff] p-2"
          src={`data:image/svg+xml;utf8,${encodeURIComponent(card.code)}`}
        />
        <dl className="mt-3">
          <dt className="text-ink-3">Network{card.hidden && ', does not say its name'}</dt>
          <dd className="font-mono text-[16px]">{card.name}</dd>
          <dt className="text-ink-3 mt-2">Security</dt>
          <dd>{card.security}</dd>
          {card.key !== null && (
            <>
              <dt className="text-ink-3 mt-2">Key</dt>
              <dd className="font-mono text-[16px] [overflow-wrap:anywhere]">{card.key}</dd>
            </>
          )}
        </dl>
        <button className="btn mt-3 print:hidden" onClick={() => print()}>
          Print the card
        </button>
      </div>
      <div className="min-w-0">
        <h2>By telephone</h2>
        <ol className="mt-1 text-[17px] leading-[26px] max-w-[60ch] list-decimal pl-6">
          {card.steps.map((step) => (
            <li key={step} className="py-1">
              {step}
            </li>
          ))}
        </ol>
        <h2 className="mt-4">On a thin client</h2>
        <ol className="mt-1 text-[17px] leading-[26px] max-w-[60ch] list-decimal pl-6">
          {card.byHand.map((step) => (
            <li key={step} className="py-1">
              {step}
            </li>
          ))}
        </ol>
        {card.key !== null && (
          <>
            <h2 className="mt-4">The key, sign by sign</h2>
            <ol className="mt-1 text-[17px] leading-[26px] grid gap-x-6 min-[520px]:grid-cols-2 max-w-[60ch] list-decimal pl-8">
              {card.spelled.map((sign, i) => (
                <li key={i}>{sign}</li>
              ))}
            </ol>
          </>
        )}
      </div>
    </div>
  );
}
