import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { EntryLinkView } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useChosen } from '../ui/useChosen.js';
import { useNotice } from '../ui/Notice.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { MakeLink } from './MakeLink.js';
import { PrintCodes } from './PrintCodes.js';
import { TryLink } from './TryLink.js';
import { useTitle } from '../shell/useTitle.js';

const stateInk: Record<EntryLinkView['state'], string> = {
  good: 'text-tile',
  expired: 'text-ink-3',
  revoked: 'text-ink-3',
  'leads nowhere': 'text-amber',
};

/** Links that go straight to a resource: make, try, print as codes, take back. */
export function LinksPage() {
  useTitle('Links and codes');
  const client = useQueryClient();
  const notice = useNotice();
  const canEdit = useCanEdit();
  const { chosen, setChosen, toggle } = useChosen();
  const [dialog, setDialog] = useState<'make' | 'test' | 'print' | null>(null);
  const answer = useQuery({ queryKey: ['access', 'links'], queryFn: () => call<EntryLinkView[]>('access/links') });
  const refresh = () => client.invalidateQueries({ queryKey: ['access', 'links'] });
  const links = answer.data ?? [];
  const good = links.filter(({ state }) => state === 'good');
  const opened = links.reduce((sum, link) => sum + link.opened, 0);
  const revoke = async (link: EntryLinkView) => {
    try {
      await call(`access/links/${link.id}`, 'DELETE');
      await refresh();
      notice({
        text: `The link “${link.caption}” for ${link.targetName} no longer opens.`,
        action: { label: 'Let it open again', run: () => void call(`access/links/${link.id}/restore`, 'POST').then(refresh) },
      });
    } catch (error) {
      notice({ text: (error as Error).message });
    }
  };
  return (
    <>
      <div className="flex items-start gap-3 flex-wrap">
        <div className="flex-1 min-w-[300px]">
          <h1>
            {answer.data
              ? links.length === 0
                ? 'No entry link yet'
                : `${good.length} ${good.length === 1 ? 'link opens' : 'links open'}, ${opened === 1 ? 'used once' : `used ${opened} times`}`
              : 'Links and codes'}
          </h1>
          <p className="text-ink-3">
            A link goes straight to one resource. It names the portal, the publication and the resource, and carries no secret.
          </p>
        </div>
        <button className="btn" onClick={() => setDialog('test')}>
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
          <div className="overflow-x-auto">
            <table className="w-full mt-2 border-collapse min-w-[860px]">
              <thead>
                <tr className="head">
                  <th className="w-7" aria-label="Choose" />
                  <th className="text-left font-normal pb-1">Caption</th>
                  <th className="text-left font-normal">For</th>
                  <th className="text-left font-normal">Resource</th>
                  <th className="text-left font-normal">Link</th>
                  <th className="text-right font-normal pr-3">Opened</th>
                  <th className="text-left font-normal">State</th>
                  <th aria-label="Take back" />
                </tr>
              </thead>
              <tbody>
                {links.map((link) => (
                  <tr key={link.id} data-row tabIndex={-1} className="border-b border-rule h-[29px] hover:bg-earth">
                    <td>
                      <input
                        type="checkbox"
                        aria-label={`Choose ${link.caption}, ${link.targetName}`}
                        checked={chosen.has(link.id)}
                        onChange={() => toggle(link.id)}
                      />
                    </td>
                    <td className="pr-3 font-semibold">{link.caption}</td>
                    <td className="pr-3">
                      {link.targetName}
                      {link.place && link.targetKind !== 'location' && <span className="text-ink-3">, {link.place}</span>}
                    </td>
                    <td className="pr-3">{link.resourceName}</td>
                    <td className="pr-3 mono truncate max-w-[220px]">
                      <a
                        className="link"
                        href={link.url}
                        target="_blank"
                        rel="noreferrer"
                        title={link.leadsTo ? `Leads to ${link.leadsTo}` : undefined}
                      >
                        {link.url.replace(/^https?:\/\//, '')}
                      </a>
                    </td>
                    <td className="text-right pr-3">{link.opened}</td>
                    <td className={`pr-3 whitespace-nowrap ${stateInk[link.state]}`}>
                      {link.state === 'good'
                        ? `to ${new Date(link.expiresAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })}`
                        : link.state}
                    </td>
                    <td className="text-right">
                      {canEdit && link.state === 'good' && (
                        <button className="btn btn-small" onClick={() => void revoke(link)}>
                          Take back
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      {dialog === 'make' && (
        <MakeLink
          onClose={(made) => {
            if (made) setChosen(new Set(made.map(({ id }) => id)));
            setDialog(made ? 'print' : null);
            void refresh();
          }}
        />
      )}
      {dialog === 'test' && <TryLink onClose={() => setDialog(null)} />}
      {dialog === 'print' && <PrintCodes ids={[...chosen]} onClose={() => setDialog(null)} />}
    </>
  );
}
