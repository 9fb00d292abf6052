import { useQuery } from '@tanstack/react-query';
import { ClientKind, Ownership, WorkKind, type Named, type OnePersonAnswer } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { MadeLink } from '../crossings/FieldCheckDialog.js';
import { checkLinkQueries } from '../crossings/queries.js';
import { useTitle } from '../shell/useTitle.js';
import { Pick } from '../ui/Pick.js';
import { Strip } from '../ui/Strip.js';
import { useAction } from '../ui/useAction.js';
import { useTyped } from '../ui/useTyped.js';

const unsaid = 'not known';
const works = [unsaid, ...WorkKind.options] as const;
const clients = [unsaid, ...ClientKind.options] as const;
const owners = [unsaid, ...Ownership.options] as const;
const said = <T extends string>(word: T): Exclude<T, typeof unsaid> | undefined =>
  word === unsaid ? undefined : (word as Exclude<T, typeof unsaid>);

interface Typed {
  name: string;
  address: string;
  resource: Named | null;
  place: Named | null;
  work: (typeof works)[number];
  client: (typeof clients)[number];
  owner: (typeof owners)[number];
}
const blank: Typed = { name: '', address: '', resource: null, place: null, work: unsaid, client: unsaid, owner: unsaid };

/** A field check for somebody of whom nothing has to be known: a name or none, what they open, and a link to send. */
export function OnePage() {
  useTitle('Check one person');
  const [typed, setTyped] = useTyped('one', blank);
  // its link is told once: after a reload it stands here still
  const [made, setMade] = useTyped<OnePersonAnswer | null>('one.made', null);
  const { name, address, resource, place, work, client, owner } = typed;
  // what was said under it before a reload is seen again; from then on it is opened and shut by hand
  const [isOpen] = useState(place !== null || [work, client, owner].some((word) => word !== unsaid));
  const set = (more: Partial<Typed>) => setTyped((before) => ({ ...before, ...more }));
  const { busy, fault, faults, refuse, run } = useAction();
  const make = () => {
    // what is copied from the address bar has a scheme before it and a path behind it
    const host = address
      .trim()
      .replace(/^https?:\/\//i, '')
      .replace(/[/?#:].*$/, '');
    if (!resource && host === '') return refuse('Say what they open: an address, or something that is there already.');
    return run(async () => {
      const opens = resource ? { resource: resource.id } : { address: host };
      const body = { name: name.trim(), ...opens, location: place?.id, work: said(work), clientKind: said(client), ownership: said(owner) };
      setMade(await call<OnePersonAnswer>('intake/one', 'POST', body));
      setTyped(blank);
    });
  };
  return (
    <div className="px-6 max-[719px]:px-4 pt-[15px] max-w-[860px]">
      <h1>Check one person</h1>
      <p className="text-ink-2 mt-1">
        Nothing has to be there before. They open a link, their browser measures for 40 seconds, and their crossing stands: with a verdict,
        or with what would settle it.
      </p>
      {made ? (
        <Made made={made} onAgain={() => setMade(null)} />
      ) : (
        <form
          className="mt-5 border-t-[1.5px] border-ink pt-4 grid grid-cols-1 min-[560px]:grid-cols-[150px_1fr] gap-x-4 gap-y-3 items-start"
          onSubmit={(event) => {
            event.preventDefault();
            void make();
          }}
        >
          <label htmlFor="one-name" className="pt-1.5">
            Who
          </label>
          <span>
            <input
              id="one-name"
              className="field w-[280px] max-w-full"
              maxLength={120}
              autoComplete="off"
              value={name}
              onChange={({ target }) => set({ name: target.value })}
            />
            <span className="block text-ink-3">A name, or nothing</span>
          </span>
          <label htmlFor="one-address" className="pt-1.5">
            What they open
          </label>
          <span>
            <input
              id="one-address"
              className="field w-[280px] max-w-full"
              autoComplete="off"
              placeholder="portal.example.org"
              disabled={resource !== null}
              aria-invalid={faults.address ? true : undefined}
              value={address}
              onChange={({ target }) => set({ address: target.value })}
            />
            <span className="block text-ink-3">The address they open; nothing is sent there</span>
          </span>
          <span className="pt-1.5">or</span>
          <Pick
            kind="resource"
            label="Something that is there already"
            value={resource}
            onPick={(next) => set({ resource: next })}
            placeholder="Something that is there already"
          />
          <details className="min-[560px]:col-span-2" open={isOpen}>
            <summary className="cursor-pointer font-semibold">What you know besides</summary>
            <div className="mt-3 grid grid-cols-1 min-[560px]:grid-cols-[150px_1fr] gap-x-4 gap-y-3 items-start">
              <span className="pt-1">What they do in it</span>
              <Strip label="What they do in it" options={works} value={work} onChange={(next) => set({ work: next })} />
              <span className="pt-1">Opened by</span>
              <Strip label="Opened by" options={clients} value={client} onChange={(next) => set({ client: next })} />
              <span className="pt-1">The device is</span>
              <Strip label="The device is" options={owners} value={owner} onChange={(next) => set({ owner: next })} />
              <span className="pt-1.5">Where they sit</span>
              <Pick
                kind="location"
                label="Where they sit"
                value={place}
                onPick={(next) => set({ place: next })}
                placeholder="A place that is there already"
              />
            </div>
          </details>
          <span />
          <span>
            <button className="btn btn-primary" disabled={busy}>
              Make the link
            </button>
            <span role="alert" className="block text-brick mt-2 empty:hidden">
              {fault}
            </span>
          </span>
        </form>
      )}
    </div>
  );
}

/** The link to send, how far it is used, and the crossing that comes of it. */
function Made({ made, onAgain }: { made: OnePersonAnswer; onAgain: () => void }) {
  const live = useQuery(checkLinkQueries.one(made.link.id));
  const state = live.data ?? made.link;
  const done = state.state === 'finished' || state.state === 'stopped';
  return (
    <section aria-label="The field check" className="mt-5 border-t-[1.5px] border-ink pt-4">
      <MadeLink link={made.link} state={state} />
      <p className="mt-4 flex flex-wrap gap-3">
        <Link className={`btn ${done ? 'btn-primary' : ''}`} to={`/crossings/${encodeURIComponent(made.crossing)}`}>
          {done ? 'See the crossing' : 'See the crossing as it stands'}
        </Link>
        <Link className="btn" to={`/estate/endpoint/${encodeURIComponent(made.endpoint)}`}>
          What is known of the device
        </Link>
        <button className="btn" onClick={onAgain}>
          Check somebody else
        </button>
      </p>
    </section>
  );
}
