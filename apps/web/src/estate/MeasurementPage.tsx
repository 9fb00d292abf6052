import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { Strip } from '../ui/Strip.js';
import type { Named } from '@underpass/contracts';
import { Pick } from '../ui/Pick.js';
import { useTitle } from '../shell/useTitle.js';
import { useAction } from '../ui/useAction.js';
import { useLeaving } from '../ui/useLeaving.js';
import { useTyped } from '../ui/useTyped.js';

const media = ['not told', 'wired', 'wifi'] as const;
const vantages = ['desk', 'host', 'session', 'not the desk'] as const;

interface KeptAs {
  kind: string;
  summary: Record<string, number | null>;
}

/** Bring in a measurement taken with another program, and say where it was taken. */
export function MeasurementPage() {
  const [text, setText] = useTyped('measurement', '');
  const [vantage, setVantage] = useState<(typeof vantages)[number]>('desk');
  const [location, setLocation] = useState<Named | null>(null);
  const [endpoint, setEndpoint] = useState<Named | null>(null);
  const [target, setTarget] = useState<Named | null>(null);
  const [medium, setMedium] = useState<(typeof media)[number]>('not told');
  const { busy, fault, refuse, run } = useAction();
  const [done, setDone] = useState<KeptAs | null>(null);
  useTitle('Measurement');
  const leaving = useLeaving(text !== '' && done === null, () => setText(''));
  const submit = () => {
    setDone(null);
    if (!location) return refuse('Choose the location where it was taken.');
    return run(async () => {
      setDone(
        await call<KeptAs>('measurements', 'POST', {
          text,
          vantage,
          location: location.id,
          ...(target ? { target: target.id } : {}),
          ...(medium === 'not told' ? {} : { medium }),
          ...(endpoint ? { endpoint: endpoint.id } : {}),
        }),
      );
      setText('');
    });
  };
  return (
    <div className="px-6 pt-[15px] max-w-[900px]">
      {leaving}
      <p className="text-ink-3">
        <Link className="link" to="/estate">
          Estate
        </Link>
      </p>
      <h1>Bring in a measurement</h1>
      <p className="text-ink-2 mt-1">
        Where no browser is at hand: the text of ping or fping -C, the JSON of iperf3 -J, or a CSV with a column rttMs. What it is, is seen
        from its content.
      </p>
      <form
        className="grid grid-cols-1 min-[640px]:grid-cols-[110px_1fr] gap-y-3 mt-4 items-start border-t-[1.5px] border-ink pt-4"
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <span className="pt-1">Taken</span>
        <Strip
          label="Taken"
          options={vantages}
          value={vantage}
          onChange={setVantage}
          words={{ desk: 'at the desk', host: 'on the host', session: 'inside the session', 'not the desk': 'elsewhere' }}
        />
        <label htmlFor="m-location" className="pt-1.5">
          Location
        </label>
        <Pick id="m-location" kind="location" label="Location" value={location} onPick={setLocation} placeholder="where it was taken" />
        <label htmlFor="m-endpoint" className="pt-1.5">
          Endpoint
        </label>
        <Pick
          id="m-endpoint"
          kind="endpoint"
          label="Endpoint"
          value={endpoint}
          onPick={setEndpoint}
          placeholder="where it is one device’s"
        />
        <label htmlFor="m-target" className="pt-1.5">
          Measured to
        </label>
        <div>
          <Pick id="m-target" kind="region" label="Measured to" value={target} onPick={setTarget} placeholder="the region it went to" />
          <p className="text-ink-3 mt-0.5">Where it is not told, the figures may be of a nearer place, and count with that doubt.</p>
        </div>
        <span className="pt-1">Connected</span>
        <Strip
          label="Connected"
          options={media}
          value={medium}
          onChange={setMedium}
          words={{ 'not told': 'not known', wired: 'by cable', wifi: 'by Wi-Fi' }}
        />
        <label htmlFor="m-text" className="pt-1.5">
          Text
        </label>
        <div>
          <textarea
            id="m-text"
            className="field mono w-full !h-[240px] py-2"
            value={text}
            onChange={(event) => setText(event.target.value)}
            required
            aria-invalid={fault !== null && location !== null}
          />
          <label className="btn btn-small mt-1 focus-within:outline-2">
            Read a file
            <input type="file" className="sr-only" onChange={(event) => void event.target.files?.[0]?.text().then(setText)} />
          </label>
        </div>
        <p role="alert" className="min-[640px]:col-start-2 text-brick empty:hidden">
          {fault}
        </p>
        <div className="min-[640px]:col-start-2">
          <button className="btn btn-primary" disabled={busy}>
            Keep the measurement
          </button>
        </div>
      </form>
      {done && <Kept as={done} atDesk={vantage === 'desk'} />}
    </div>
  );
}

function Kept({ as: done, atDesk }: { as: KeptAs; atDesk: boolean }) {
  return (
    <section role="status" className="mt-5 border-t-[1.5px] border-ink pt-3">
      <h2>
        Kept as {done.kind}
        {atDesk ? '' : '; it is no evidence for the line, since it was not taken at the desk'}
      </h2>
      <table className="mt-2 border-collapse">
        <tbody>
          {Object.entries(done.summary)
            .filter(([, value]) => value !== null)
            .map(([name, value]) => (
              <tr key={name} className="border-b border-rule">
                <td className="pr-6 py-0.5">{name}</td>
                <td className="text-right">{Number((value ?? 0).toFixed(3))}</td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}
