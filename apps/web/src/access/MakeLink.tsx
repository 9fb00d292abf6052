import type { EntryLinkView, Named } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { Pick } from '../ui/Pick.js';
import { LinkSaving } from './LinkSaving.js';
import { Strip } from '../ui/Strip.js';
import { useAction } from '../ui/useAction.js';

const kinds = ['endpoint', 'person', 'group', 'location'] as const;
type Kind = (typeof kinds)[number];

/** What a link is to be, and making it. */
function useNewLink(onMade: (made: EntryLinkView[]) => void) {
  const [resource, setResource] = useState<Named | null>(null);
  const [kind, setKind] = useState<Kind>('endpoint');
  const [target, setTarget] = useState<Named | null>(null);
  const [every, setEvery] = useState<'one' | 'each'>('each');
  const [caption, setCaption] = useState<string | null>(null);
  const [days, setDays] = useState<'30' | '180' | '365' | '1095'>('365');
  const { busy, fault, refuse, run } = useAction();
  const make = async () => {
    if (!resource || !target) return refuse(resource ? 'Choose whom it is for.' : 'Choose the resource it opens.');
    await run(async () => {
      onMade(
        await call<EntryLinkView[]>('access/links', 'POST', {
          resource: resource.id,
          targetKind: kind,
          target: target.id,
          everyEndpoint: kind === 'location' && every === 'each',
          caption: caption ?? resource.name,
          days: Number(days),
        }),
      );
    });
  };
  return {
    ...{ resource, setResource, kind, setKind, target, setTarget, every, setEvery, caption, setCaption, days, setDays },
    ...{ busy, fault, make },
  };
}

/** Makes links for a resource and whom they are for; a place may have one for each of its endpoints. */
export function MakeLink({
  onClose,
  onTry,
}: {
  onClose: (made?: EntryLinkView[]) => void;
  onTry: (first: { resource: Named; person: Named | null }) => void;
}) {
  const { resource, setResource, kind, setKind, target, setTarget, every, setEvery, caption, setCaption, days, setDays, ...made } =
    useNewLink(onClose);
  const { busy, fault, make } = made;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Make links"
      description="Each goes straight to one resource; the portal still asks who it is."
    >
      <form
        className="grid grid-cols-1 min-[640px]:grid-cols-[112px_1fr] gap-y-1 min-[640px]:gap-y-3 items-center"
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <span>Resource</span>
        <Pick kind="resource" label="Resource" value={resource} onPick={setResource} />
        <span>For</span>
        <Strip
          label="For"
          options={kinds}
          value={kind}
          onChange={(next) => {
            setKind(next);
            setTarget(null);
          }}
          words={{ endpoint: 'Endpoint or kiosk', person: 'Person', group: 'Group', location: 'Location' }}
        />
        <span>Which {kind}</span>
        <Pick key={kind} kind={kind} label={`Which ${kind}`} value={target} onPick={setTarget} />
        {kind === 'location' && (
          <>
            <span>Links</span>
            <Strip
              label="Links"
              options={['each', 'one']}
              value={every}
              onChange={setEvery}
              words={{ each: 'One for each endpoint', one: 'One for the place' }}
            />
          </>
        )}
        <label htmlFor="caption">Caption</label>
        <input
          id="caption"
          className="field max-w-[280px]"
          maxLength={80}
          value={caption ?? resource?.name ?? ''}
          onChange={(event) => setCaption(event.target.value)}
        />
        <span>Good for</span>
        <Strip
          label="Good for"
          options={['30', '180', '365', '1095']}
          value={days}
          onChange={setDays}
          words={{ '30': '30 days', '180': 'half a year', '365': 'a year', '1095': '3 years' }}
        />
        <p aria-live="polite" className="min-[640px]:col-start-2 empty:hidden first-letter:uppercase">
          {resource && <LinkSaving resource={resource} kind={kind} target={target} />}
        </p>
        <p role="alert" className="min-[640px]:col-start-2 text-brick empty:hidden">
          {fault}
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
