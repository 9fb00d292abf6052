import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { EntryLinkView, Named } from '@underpass/contracts';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useAction } from '../ui/useAction.js';
import { accessQueries } from './queries.js';
import type { ListColumn } from '../ui/list/columns.js';
import { List } from '../ui/list/List.js';
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
    <div className="flex-1 min-w-[min(100%,300px)]">
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
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [sort, setSort] = useState<string | null>(null);
  const [trying, setTrying] = useState<{ resource: Named; person: Named | null }>();
  const asked = useSearchParams()[0].get('do');
  const [dialog, setDialog] = useState<'make' | 'test' | 'print' | null>(asked === 'make' || asked === 'test' ? asked : null);
  const answer = useQuery(accessQueries.links());
  const refresh = () => client.invalidateQueries({ queryKey: accessQueries.links().queryKey });
  const links = answer.data ?? [];
  const good = links.filter(({ state }) => state === 'good');
  const revoke = useRevoking(refresh);
  const columns = columnsOf(canEdit ? revoke : null);
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
          <List
            rows={links}
            idOf={({ id }) => id}
            nameOf={({ caption, targetName }) => `${caption}, ${targetName}`}
            label="Links"
            columns={columns}
            sort={sort}
            onSort={setSort}
            sorted="here"
            chosen={chosen}
            onChosen={setChosen}
            minWidth={940}
            height="max-h-[calc(100vh-200px)] mt-2"
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

const columnsOf = (onRevoke: ((link: EntryLinkView) => void) | null): ListColumn<EntryLinkView>[] => [
  {
    id: 'caption',
    head: 'Caption',
    width: 'minmax(150px,1.2fr)',
    cell: ({ caption }) => (
      <b className="font-semibold" title={caption}>
        {caption}
      </b>
    ),
    text: ({ caption }) => caption,
  },
  {
    id: 'for',
    head: 'For',
    width: 'minmax(140px,1.2fr)',
    cell: (link) => (
      <>
        {link.targetName}
        {link.place && link.targetKind !== 'location' && <span className="text-ink-3">, {link.place}</span>}
      </>
    ),
    text: ({ targetName }) => targetName,
  },
  {
    id: 'resource',
    head: 'Resource',
    width: 'minmax(110px,0.8fr)',
    cell: ({ resourceName }) => resourceName,
    text: ({ resourceName }) => resourceName,
  },
  {
    id: 'link',
    head: 'Link',
    width: 'minmax(150px,1.2fr)',
    sorts: false,
    cell: ({ url, leadsTo }) => (
      <a className="link mono" href={url} target="_blank" rel="noreferrer" title={leadsTo ? `Leads to ${leadsTo}` : undefined}>
        {url.replace(/^https?:\/\//, '')}
      </a>
    ),
    text: ({ url }) => url,
  },
  {
    id: 'opened',
    head: 'Opened',
    width: '64px',
    right: true,
    cell: ({ opened }) => opened,
    text: ({ opened }) => String(opened),
    sortBy: ({ opened }) => opened,
  },
  {
    id: 'state',
    head: 'State',
    width: 'minmax(130px,0.9fr)',
    cell: ({ state, expiresAt }) => <span className={stateInk[state]}>{state === 'good' ? `to ${day(expiresAt)}` : state}</span>,
    text: ({ state, expiresAt }) => (state === 'good' ? `to ${day(expiresAt)}` : state),
    sortBy: ({ state, expiresAt }) => `${state} ${expiresAt}`,
  },
  {
    id: 'back',
    head: 'Take back',
    width: '92px',
    sorts: false,
    cell: (link) =>
      onRevoke && link.state === 'good' ? (
        <button className="btn btn-small" onClick={() => onRevoke(link)}>
          Take back
        </button>
      ) : null,
    text: () => '',
  },
];
