import { useQuery } from '@tanstack/react-query';
import type { KeptView } from '@underpass/contracts';
import { Bookmark, Link2, Trash2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Link, useLocation } from 'react-router';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useNotice } from '../ui/Notice.js';
import { useAction } from '../ui/useAction.js';
import { viewQueries } from './queries.js';

/** Views of this screen that are kept by name, and a way to keep what is shown now. */
export function ViewsMenu() {
  const [open, setOpen] = useState(false);
  const { pathname } = useLocation();
  const views = useQuery({ ...viewQueries.all(), enabled: open });
  const here = (views.data ?? []).filter(({ path }) => path === pathname);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="btn btn-small">
        <Bookmark size={13} aria-hidden className="mr-1.5" />
        Views
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={12}
          className="bg-sheet border border-ink p-3 z-40 w-[min(320px,calc(100vw-24px))]"
        >
          {here.length === 0 && <p className="text-ink-3">{views.isPending ? '·····' : 'No view of this screen is kept yet.'}</p>}
          <ul aria-label="Kept views">
            {here.map((view) => (
              <Row key={view.id} view={view} onOpen={() => setOpen(false)} />
            ))}
          </ul>
          <Keep onKept={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Row({ view, onOpen }: { view: KeptView; onOpen: () => void }) {
  const { run, busy } = useAction('foot');
  const notice = useNotice();
  const link = `${location.origin}/view/${view.id}`;
  const small = 'min-w-[26px] min-h-[26px] inline-flex items-center justify-center hover:bg-earth';
  return (
    <li className="flex items-center border-b border-rule">
      <Link className="flex-1 py-1.5 min-w-0 truncate font-semibold hover:underline" to={`${view.path}${view.search}`} onClick={onOpen}>
        {view.name}
        {view.forAll && <span className="font-normal text-ink-3"> {view.own ? 'for all' : `for all, by ${view.by}`}</span>}
      </Link>
      <button
        type="button"
        className={small}
        aria-label={`Copy the link of ${view.name}`}
        onClick={() =>
          navigator.clipboard.writeText(link).then(
            () => notice({ text: `The link of “${view.name}” is copied.` }),
            () => notice({ text: link }),
          )
        }
      >
        <Link2 size={14} aria-hidden />
      </button>
      {view.own && (
        <button
          type="button"
          className={small}
          disabled={busy}
          aria-label={`Drop ${view.name}`}
          onClick={() =>
            void run(async () => {
              await call(`views/${view.id}`, 'DELETE');
              const { name, path, search, forAll } = view;
              return {
                text: `Dropped the view “${name}”.`,
                action: {
                  label: 'Take it back',
                  run: () => void run(async () => void (await call('views', 'POST', { name, path, search, forAll }))),
                },
              };
            })
          }
        >
          <Trash2 size={14} aria-hidden />
        </button>
      )}
    </li>
  );
}

/** Keeps what is shown now: filters, order and columns. */
function Keep({ onKept }: { onKept: () => void }) {
  const { pathname, search } = useLocation();
  const canEdit = useCanEdit();
  const { run, busy, fault } = useAction();
  const { register, handleSubmit } = useForm({ defaultValues: { name: '', forAll: false } });
  const keep = handleSubmit(async ({ name, forAll }) => {
    const kept = await run(async () => {
      await call('views', 'POST', { name, path: pathname, search, forAll });
      return { text: `Kept the view “${name.trim()}”.` };
    });
    if (kept) onKept();
  });
  return (
    <form className="mt-3" onSubmit={(event) => void keep(event)}>
      <label htmlFor="view-name" className="block text-ink-2">
        Keep what is shown now as
      </label>
      <span className="flex gap-2 mt-1">
        <input
          id="view-name"
          className="field flex-1 min-w-0"
          autoComplete="off"
          maxLength={80}
          {...register('name', { required: true })}
        />
        <button className="btn" disabled={busy}>
          Keep
        </button>
      </span>
      {canEdit && (
        <label className="flex gap-2 items-center mt-1.5 min-h-[24px]">
          <input type="checkbox" {...register('forAll')} />
          for everybody
        </label>
      )}
      {fault && (
        <p role="alert" className="text-brick mt-1">
          {fault}
        </p>
      )}
    </form>
  );
}
