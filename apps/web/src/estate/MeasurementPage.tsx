import { zodResolver } from '@hookform/resolvers/zod';
import { MeasurementForm } from '@underpass/contracts';
import { useState } from 'react';
import { useFormState } from 'react-hook-form';
import { call } from '../api/client.js';
import { useTitle } from '../shell/useTitle.js';
import { Beneath } from '../ui/form/Beneath.js';
import { PickRow, StripRow } from '../ui/form/Controlled.js';
import { useKeptForm } from '../ui/form/useKeptForm.js';
import { useSent } from '../ui/form/useSent.js';
import { useLeaving } from '../ui/useLeaving.js';
import { fixed } from '../ui/figures.js';
import { BackToEstate } from '../ui/BackToEstate.js';

const vantages = ['desk', 'host', 'session', 'not the desk'] as const;
const media = ['not told', 'wired', 'wifi'] as const;
const nothing = {
  text: '',
  vantage: 'desk' as (typeof vantages)[number],
  location: null,
  endpoint: null,
  target: null,
  medium: 'not told' as (typeof media)[number],
};

interface KeptAs {
  kind: string;
  summary: Record<string, number | null>;
  atDesk: boolean;
}

/** Bring in a measurement taken with another program, and say where it was taken. */
export function MeasurementPage() {
  const [done, setDone] = useState<KeptAs | null>(null);
  const form = useSent({ defaultValues: nothing, resolver: zodResolver(MeasurementForm) }, async (measurement) => {
    setDone(null);
    const kept = await call<Omit<KeptAs, 'atDesk'>>('measurements', 'POST', measurement);
    setDone({ ...kept, atDesk: measurement.vantage === 'desk' });
    // the next is mostly of the same place
    form.reset({ ...form.getValues(), text: '' });
    forget();
  });
  const { control, register } = form;
  const { forget } = useKeptForm(form, 'measurement');
  const { dirtyFields } = useFormState({ control });
  useTitle('Measurement');
  const leaving = useLeaving(dirtyFields.text === true, forget);
  const fault = form.faultOf('text') ?? form.fault ?? undefined;
  return (
    <div className="px-6 pt-[15px] max-w-[900px]">
      {leaving}
      <BackToEstate />
      <h1>Bring in a measurement</h1>
      <p className="text-ink-2 mt-1">
        Where no browser is at hand: the text of ping or fping -C, the JSON of iperf3 -J, or a CSV with a column rttMs. What it is, is seen
        from its content.
      </p>
      <form
        className="grid grid-cols-1 min-[640px]:grid-cols-[110px_1fr] gap-y-3 mt-4 items-baseline border-t-[1.5px] border-ink pt-4"
        noValidate
        onSubmit={(event) => void form.send()(event)}
      >
        <StripRow
          control={control}
          name="vantage"
          label="Taken"
          options={vantages}
          words={{ desk: 'at the desk', host: 'on the host', session: 'inside the session', 'not the desk': 'elsewhere' }}
        />
        <PickRow control={control} name="location" label="Location" kind="location" placeholder="where it was taken" />
        <PickRow control={control} name="endpoint" label="Endpoint" kind="endpoint" placeholder="where it is one device’s" />
        <PickRow
          control={control}
          name="target"
          label="Measured to"
          kind="region"
          placeholder="the region it went to"
          hint="Where it is not told, the figures may be of a nearer place, and count with that doubt."
        />
        <StripRow
          control={control}
          name="medium"
          label="Connected"
          options={media}
          words={{ 'not told': 'not known', wired: 'by cable', wifi: 'by Wi-Fi' }}
        />
        <label htmlFor="m-text" className="self-start pt-1.5">
          Text
        </label>
        <div>
          <textarea
            id="m-text"
            className="field mono w-full !h-[240px] py-2"
            aria-invalid={fault !== undefined}
            aria-describedby="m-text-more"
            {...register('text')}
          />
          <Beneath id="m-text-more" fault={fault} />
          <label className="btn btn-small mt-1 focus-within:outline-2">
            Read a file
            <input
              type="file"
              className="sr-only"
              onChange={({ target }) => void target.files?.[0]?.text().then((text) => form.setValue('text', text, { shouldDirty: true }))}
            />
          </label>
        </div>
        <div className="min-[640px]:col-start-2">
          <button className="btn btn-primary" disabled={form.busy}>
            Keep the measurement
          </button>
        </div>
      </form>
      {done && <Kept as={done} />}
    </div>
  );
}

function Kept({ as: done }: { as: KeptAs }) {
  return (
    <section role="status" className="mt-5 border-t-[1.5px] border-ink pt-3">
      <h2>
        Kept as {done.kind}
        {done.atDesk ? '' : '; it is no evidence for the line, since it was not taken at the desk'}
      </h2>
      <table className="mt-2 border-collapse">
        <tbody>
          {Object.entries(done.summary)
            .filter(([, value]) => value !== null)
            .map(([name, value]) => (
              <tr key={name} className="border-b border-rule">
                <td className="pr-6 py-0.5">{name}</td>
                <td className="text-right">{fixed(value ?? 0, 3, 0)}</td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}
