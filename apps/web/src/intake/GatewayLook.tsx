import type { GatewayLooked } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { day } from '../ui/times.js';
import { Strip } from '../ui/Strip.js';
import { useAction } from '../ui/useAction.js';

const trusts = ['organisation', 'none'] as const;
const words = { organisation: 'our own devices', none: 'nobody' };

/** A gateway, looked at when somebody asks: what it shows stands beside the estate, and is taken over or not. */
export function GatewayLook({ id }: { id: string }) {
  const [seen, setSeen] = useState<GatewayLooked['seen'] | null>(null);
  const [trust, setTrust] = useState<(typeof trusts)[number]>('organisation');
  const { busy, fault, run } = useAction();
  const look = (take: boolean) =>
    run(async () => {
      const answer = await call<GatewayLooked>(`intake/gateways/${encodeURIComponent(id)}/look`, 'POST', {
        take,
        ...(take ? { trust } : {}),
      });
      setSeen(take ? null : answer.seen);
      if (answer.applied) return { text: 'What the gateway shows is taken over.', applied: answer.applied };
    });
  return (
    <section aria-labelledby="gateway-look" className="mt-6">
      <h2 id="gateway-look">What it shows</h2>
      {seen && (
        <dl className="grid grid-cols-[110px_1fr] gap-y-1 mt-1">
          <dt className="text-ink-3">Names</dt>
          <dd className="break-words min-w-0">{seen.names.join(', ')}</dd>
          <dt className="text-ink-3">Good</dt>
          <dd>
            {day(seen.notBefore)} to {day(seen.notAfter)}
          </dd>
          <dt className="text-ink-3">Issued by</dt>
          <dd>{seen.issuer || 'not said'}</dd>
          <dt className="text-ink-3">TLS</dt>
          <dd>{seen.tlsMinimum === seen.tlsHighest ? seen.tlsHighest : `${seen.tlsMinimum} to ${seen.tlsHighest}`}</dd>
          <dt className="text-ink-3">Trusted by</dt>
          <dd>
            {seen.public ? 'every system' : <Strip label="Trusted by" options={trusts} words={words} value={trust} onChange={setTrust} />}
          </dd>
        </dl>
      )}
      <p className="mt-2 flex flex-wrap gap-3">
        <button type="button" className="btn" disabled={busy} onClick={() => void look(false)}>
          {busy ? 'Looking' : seen ? 'Look again' : 'Look at it now'}
        </button>
        {seen && (
          <button type="button" className="btn btn-primary" disabled={busy} onClick={() => void look(true)}>
            Take it over
          </button>
        )}
      </p>
      <p role="alert" className="text-brick mt-1 empty:hidden">
        {fault}
      </p>
      <p className="text-ink-3 mt-1">The server greets it at its address, and sends nothing.</p>
    </section>
  );
}
