import { zodResolver } from '@hookform/resolvers/zod';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { DeviceClass, FirmwareAsked, Processor, type WrittenObject } from '@underpass/contracts';
import { useState } from 'react';
import { useController, useWatch, type Control } from 'react-hook-form';
import { z } from 'zod';
import { call } from '../api/client.js';
import { Labelled } from '../ui/form/Labelled.js';
import { StripRow } from '../ui/form/Controlled.js';
import { WordChoice } from '../ui/form/WordChoice.js';
import { useKeptForm } from '../ui/form/useKeptForm.js';
import { useSent } from '../ui/form/useSent.js';
import { namedIn, sendBytes } from './putUp.js';
import { bringupQueries } from './queries.js';
import { devicesWords, megabytes } from './words.js';

const Asked = FirmwareAsked.extend({ reason: z.string().trim().max(300) });
type Typed = z.input<typeof Asked>;
const nothing: Typed = { id: '', deviceClass: 'thin-client', version: '', processor: 'x86-64', reason: '' };

/** A file of firmware is put up: what devices will do with it is seen before. */
export function PutUp() {
  const client = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const [sent, setSent] = useState<number | null>(null);
  const form = useSent<Typed, z.output<typeof Asked>>({ defaultValues: nothing, resolver: zodResolver(Asked) }, async (asked) => {
    if (!file) throw new Error('Choose the file first.');
    const { id, reason, ...more } = asked;
    const sizeMB = Math.max(0.001, Number((file.size / 1e6).toPrecision(4)));
    const object = { id, ...more, sizeMB, ...(reason === '' ? {} : { reason }) };
    const applied = await call<WrittenObject>(`estate/firmware/${encodeURIComponent(id)}`, 'PUT', object, { 'if-none-match': '*' });
    setSent(0);
    // from here on it is up, whatever becomes of its bytes
    const broke = await sendBytes(id, file, 0, setSent).then(
      () => null,
      (error: Error) => error.message,
    );
    setSent(null);
    // the list was asked for again when the file was put up, before its bytes were here
    void client.invalidateQueries(bringupQueries.firmware());
    setFile(null);
    form.reset(nothing);
    forget();
    const bytes =
      broke === null ? 'and its bytes are here.' : `but not all of its bytes came: ${broke} Choose it again in the list, to go on.`;
    return { text: `${id} is up, ${bytes}`, applied, takenBack: `${id} is not up any more.` };
  });
  const { forget } = useKeptForm(form, 'firmware');
  const { reason, ...asked } = useWatch({ control: form.control });
  const read = FirmwareAsked.safeParse(asked);
  const who = useQuery({ ...bringupQueries.who(read.data ?? { ...nothing, id: 'x', version: '0' }), enabled: read.success });
  const down = read.success ? (who.data?.devices.down ?? 0) : 0;
  const choose = (chosen: File) => {
    setFile(chosen);
    const { id, version } = namedIn(chosen.name);
    if (!form.getValues('id')) form.setValue('id', id, { shouldDirty: true });
    if (!form.getValues('version')) form.setValue('version', version, { shouldDirty: true });
  };
  return (
    <section aria-labelledby="put-up" className="mt-8 max-w-[760px]">
      <h2 id="put-up">Put up a file</h2>
      <form
        className="grid grid-cols-1 min-[640px]:grid-cols-[110px_1fr] gap-y-3 mt-2 items-baseline border-t-[1.5px] border-ink pt-4"
        noValidate
        onSubmit={(event) => void form.send()(event)}
      >
        <span>File</span>
        <p>
          <label className="btn btn-small focus-within:outline-2">
            {file ? 'Choose another' : 'Choose a file'}
            <input
              type="file"
              className="sr-only"
              aria-label="File of firmware"
              onChange={({ target }) => {
                const [chosen] = target.files ?? [];
                if (chosen) choose(chosen);
              }}
            />
          </label>
          {file && (
            <span className="ml-3 [overflow-wrap:anywhere]">
              {file.name}, {megabytes(file.size / 1e6)}
            </span>
          )}
        </p>
        <Labelled id="f-id" label="Name" fault={form.faultOf('id')} {...form.register('id')} />
        <Classes control={form.control} />
        <Labelled
          id="f-version"
          label="Version"
          fault={form.faultOf('version')}
          hint="As its maker writes it: numbers with dots or underscores."
          {...form.register('version')}
        />
        <StripRow control={form.control} name="processor" label="Processor" options={Processor.options} />
        <div role="status" className="min-[640px]:col-start-2 min-h-[36px]">
          {read.success && who.data && (
            <>
              {devicesWords(who.data.devices).map(({ text, amber }) => (
                <p key={text} className={amber ? 'text-amber font-semibold' : 'text-ink-2'}>
                  {text}
                </p>
              ))}
              {down > 0 && (
                <p className="text-ink-2">
                  {who.data.back.join(', ')}
                  {down > who.data.back.length && ` and ${down - who.data.back.length} more`} {down === 1 ? 'has' : 'have'} something newer.
                </p>
              )}
            </>
          )}
        </div>
        {(down > 0 || reason) && (
          <Labelled
            id="f-reason"
            label="Reason"
            className="field w-full max-w-[520px]"
            hint="Why older firmware is put up. It stands beside the file."
            fault={form.faultOf('reason')}
            {...form.register('reason')}
          />
        )}
        <div className="min-[640px]:col-start-2">
          <button className="btn btn-primary" disabled={form.busy || !file}>
            Put up this firmware
          </button>
          {sent !== null && file && (
            <span role="status" className="ml-4">
              {sent === file.size ? 'Held against its sum ·····' : `${megabytes(sent / 1e6)} of ${megabytes(file.size / 1e6)} sent`}
            </span>
          )}
          {form.fault && (
            <p role="alert" className="text-brick mt-2">
              {form.fault}
            </p>
          )}
        </div>
      </form>
    </section>
  );
}

function Classes({ control }: { control: Control<Typed, unknown, z.output<typeof Asked>> }) {
  const { field, fieldState } = useController({ control, name: 'deviceClass' });
  return (
    <>
      <label htmlFor="f-class">Device</label>
      <WordChoice
        id="f-class"
        label="Device"
        words={DeviceClass.options}
        empty="choose one"
        value={field.value}
        onChange={field.onChange}
        onBlur={field.onBlur}
        disabled={false}
        describedBy="f-class-more"
        invalid={fieldState.error !== undefined}
      />
    </>
  );
}
