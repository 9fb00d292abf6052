import { zodResolver } from '@hookform/resolvers/zod';
import { EntryLinkForm, type EntryLinkView, type Named } from '@underpass/contracts';
import { useWatch } from 'react-hook-form';
import { call } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { PickRow, StripRow } from '../ui/form/Controlled.js';
import { Labelled } from '../ui/form/Labelled.js';
import { useSent } from '../ui/form/useSent.js';
import { LinkSaving } from './LinkSaving.js';

const kinds = ['endpoint', 'person', 'group', 'location'] as const;
const ways = ['each', 'one'] as const;
const terms = ['30', '180', '365', '1095'] as const;
const usual = {
  resource: null as Named | null,
  targetKind: 'endpoint' as (typeof kinds)[number],
  target: null as Named | null,
  every: 'each' as (typeof ways)[number],
  caption: '',
  days: '365' as (typeof terms)[number],
};

/** Makes links for a resource and whom they are for; a place may have one for each of its endpoints. */
export function MakeLink({
  onClose,
  onTry,
}: {
  onClose: (made?: EntryLinkView[]) => void;
  onTry: (first: { resource: Named; person: Named | null }) => void;
}) {
  const form = useSent({ defaultValues: usual, resolver: zodResolver(EntryLinkForm) }, async (wanted) =>
    onClose(await call<EntryLinkView[]>('access/links', 'POST', wanted)),
  );
  const { control, busy, setValue, getFieldState, getValues } = form;
  const [resource, kind, target, every] = useWatch({ control, name: ['resource', 'targetKind', 'target', 'every'] });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Make links"
      description="Each goes straight to one resource; the portal still asks who it is."
    >
      <form
        className="grid grid-cols-1 min-[640px]:grid-cols-[112px_1fr] gap-y-1 min-[640px]:gap-y-3 items-baseline"
        noValidate
        onSubmit={(event) => void form.send()(event)}
      >
        <PickRow
          control={control}
          name="resource"
          label="Resource"
          kind="resource"
          // called as what it opens, until another caption is typed
          onPicked={() => !getFieldState('caption').isDirty && setValue('caption', getValues('resource')?.name ?? '')}
        />
        <StripRow
          control={control}
          name="targetKind"
          label="For"
          options={kinds}
          words={{ endpoint: 'Endpoint or kiosk', person: 'Person', group: 'Group', location: 'Location' }}
          onChosen={() => setValue('target', null)}
        />
        <PickRow control={control} name="target" label={`Which ${kind}`} kind={kind} />
        {kind === 'location' && (
          <StripRow
            control={control}
            name="every"
            label="Links"
            options={ways}
            words={{ each: 'One for each endpoint', one: 'One for the place' }}
          />
        )}
        <Labelled
          id="caption"
          label="Caption"
          className="field w-full max-w-[280px]"
          maxLength={80}
          fault={form.faultOf('caption')}
          {...form.register('caption')}
        />
        <StripRow
          control={control}
          name="days"
          label="Good for"
          options={terms}
          words={{ '30': '30 days', '180': 'half a year', '365': 'a year', '1095': '3 years' }}
        />
        <p aria-live="polite" className="min-[640px]:col-start-2 empty:hidden first-letter:uppercase">
          {resource && <LinkSaving resource={resource} kind={kind} target={target} />}
        </p>
        <p role="alert" className="min-[640px]:col-start-2 text-brick empty:hidden">
          {form.fault}
        </p>
        <div className="min-[640px]:col-start-2 flex gap-4 items-center">
          <button className="btn btn-primary" disabled={busy}>
            {busy ? 'Making' : kind === 'location' && every === 'each' ? 'Make the links' : 'Make the link'}
          </button>
          {resource && (
            <button type="button" className="link" onClick={() => onTry({ resource, person: kind === 'person' ? target : null })}>
              Try it on paper for a person first
            </button>
          )}
        </div>
      </form>
    </Dialog>
  );
}
