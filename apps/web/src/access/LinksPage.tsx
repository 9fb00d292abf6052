import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { EntryLinkView, Named } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useChosen } from '../ui/useChosen.js';
import { useAction } from '../ui/useAction.js';
import { accessQueries } from './queries.js';
import { LongList } from '../ui/LongList.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { MakeLink } from './MakeLink.js';
import { PrintCodes } from './PrintCodes.js';
import { TryLink } from './TryLink.js';
import { useTitle } from '../shell/useTitle.js';
import { day } from '../ui/times.js';

const stateInk: Record<EntryLinkView['state'], string> = {
  good: 'text-tile',
  expired: 'text-ink-3',
  revoked: 'text-ink-3',
  'leads nowhere': 'text-amber',
};

const grid =
  'grid grid-cols-[28px_minmax(150px,1.2fr)_minmax(140px,1.2fr)_minmax(110px,0.8fr)_minmax(150px,1.2fr)_60px_minmax(130px,0.9fr)_84px] gap-x-3';

/** Takes a link back, with a way to let it open again. */
function useRevoking(refresh: () => Promise<void>): (link: EntryLinkView) => void {
  const { run } = useAction('foot');
  const restore = (link: EntryLinkView) =>
    run(async () => {
      await call(`access/links/${link.id}/restore`, 'POST');
      await refresh();
    });
  const revoke = (link: EntryLinkView) =>
    run(async () => {
      await call(`access/links/${link.id}`, 'DELETE');
      await refresh();
      return {
        text: `The link “${link.caption}” for ${link.targetName} no longer opens.`,
        action: { label: 'Let it open again', run: () => void restore(link) },
      };
    });
  return (link) => void revoke(link);
}

function LinksHead({ links }: { links: readonly EntryLinkView[] | undefined }) {
  const good = links?.filter(({ state }) => state === 'good').length ?? 0;
  const opened = links?.reduce((sum, link) => sum + link.opened, 0) ?? 0;
  const used = opened === 0 ? 'not used yet' : opened === 1 ? 'used once' : `used ${opened} times`;
  return (
    <div className="flex-1 min-w-[300px]">
      <h1>
        {!links
          ? 'Links and codes'
          : links.length === 0
            ? 'No entry link yet'
            : `${good} ${good === 1 ? 'link opens' : 'links open'}, ${used}`}
      </h1>
      <p className="text-ink-3">
        A link goes straight to one resource. It names the portal, the publication and the resource, and carries no secret.
      </p>
    </div>
  );
}

/** Links that go straight to a resource: make, try, print as codes, take back. */
export function LinksPage() {
  useTitle('Links and codes');
  const client = useQueryClient();
  const canEdit = useCanEdit();
  const { chosen, setChosen, toggle } = useChosen();
  const [trying, setTrying] = useState<{ resource: Named; person: Named | null }>();
  const [dialog, setDialog] = useState<'make' | 'test' | 'print' | null>(null);
  const answer = useQuery(accessQueries.links());
  const refresh = () => client.invalidateQueries({ queryKey: accessQueries.links().queryKey });
  const links = answer.data ?? [];
  const good = links.filter(({ state }) => state === 'good');
  const revoke = useRevoking(refresh);
  return (
    <>
      <div className="flex items-start gap-3 flex-wrap">
        <LinksHead links={answer.data} />
        <button
          className="btn"
          onClick={() => {
            setTrying(undefined);
            setDialog('test');
          }}
        >
          Try a link on paper
        </button>
        {canEdit && (
          <button className="btn btn-primary" onClick={() => setDialog('make')}>
            Make links
          </button>
        )}
      </div>
      {answer.isPending && <Loading what="the links" />}
      {answer.isError && <Failed what="The links" error={answer.error} onRetry={() => void answer.refetch()} />}
      {answer.data?.length === 0 && (
        <Empty
          action={
            canEdit ? (
              <button className="btn" onClick={() => setDialog('make')}>
                Make the first link
              </button>
            ) : undefined
          }
        >
          People who start from a link pass the list of resources by. For a kiosk or the shop floor it is printed as a code.
        </Empty>
      )}
      {links.length > 0 && (
        <>
          <div className="mt-3 flex gap-3 items-center">
            <button className="btn btn-small" onClick={() => setChosen(chosen.size ? new Set() : new Set(good.map(({ id }) => id)))}>
              {chosen.size ? 'Choose none' : 'Choose all that open'}
            </button>
            <button className="btn btn-small" disabled={chosen.size === 0} onClick={() => setDialog('print')}>
              Print {chosen.size || ''} {chosen.size === 1 ? 'code' : 'codes'}
            </button>
          </div>
          <LongList
            rows={links}
            label="Links"
            heads={[
              { name: 'Choose', unseen: true },
              'Caption',
              'For',
              'Resource',
              'Link',
              { name: 'Opened', right: true },
              'State',
              { name: 'Take back', unseen: true },
            ]}
            grid={grid}
            minWidth="min-w-[900px]"
            height="max-h-[calc(100vh-200px)] mt-2"
            cells={(link) => (
              <LinkCells
                link={link}
                chosen={chosen.has(link.id)}
                onToggle={() => toggle(link.id)}
                onRevoke={canEdit ? () => revoke(link) : null}
              />
            )}
          />
        </>
      )}
      {dialog === 'make' && (
        <MakeLink
          onTry={(first) => {
            setTrying(first);
            setDialog('test');
          }}
          onClose={(made) => {
            if (made) setChosen(new Set(made.map(({ id }) => id)));
            setDialog(made ? 'print' : null);
            void refresh();
          }}
        />
      )}
      {dialog === 'test' && <TryLink first={trying} onClose={() => setDialog(null)} />}
      {dialog === 'print' && <PrintCodes ids={[...chosen]} onClose={() => setDialog(null)} />}
    </>
  );
}

function LinkCells({
  link,
  chosen,
  onToggle,
  onRevoke,
}: {
  link: EntryLinkView;
  chosen: boolean;
  onToggle: () => void;
  onRevoke: (() => void) | null;
}) {
  return (
    <>
      <span role="cell" className="flex">
        <input type="checkbox" aria-label={`Choose ${link.caption}, ${link.targetName}`} checked={chosen} onChange={onToggle} />
      </span>
      <span role="cell" className="font-semibold truncate" title={link.caption}>
        {link.caption}
      </span>
      <span role="cell" className="truncate">
        {link.targetName}
        {link.place && link.targetKind !== 'location' && <span className="text-ink-3">, {link.place}</span>}
      </span>
      <span role="cell" className="truncate">
        {link.resourceName}
      </span>
      <span role="cell" className="mono truncate">
        <a className="link" href={link.url} target="_blank" rel="noreferrer" title={link.leadsTo ? `Leads to ${link.leadsTo}` : undefined}>
          {link.url.replace(/^https?:\/\//, '')}
        </a>
      </span>
      <span role="cell" className="text-right">
        {link.opened}
      </span>
      <span role="cell" className={`truncate ${stateInk[link.state]}`}>
        {link.state === 'good' ? `to ${day(link.expiresAt)}` : link.state}
      </span>
      <span role="cell" className="text-right">
        {onRevoke && link.state === 'good' && (
          <button className="btn btn-small" onClick={onRevoke}>
            Take back
          </button>
        )}
      </span>
    </>
  );
}
