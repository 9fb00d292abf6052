import type { CheckLinkView, GapsAnswer } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { useNotice } from '../ui/Notice.js';
import { useAction } from '../ui/useAction.js';

type Check = GapsAnswer['next'][number]['checks'][number];
type Made = Check & Pick<CheckLinkView, 'url' | 'qr'>;
/** More links than this are made in parts: whoever makes them waits for each. */
const mostAtOnce = 60;
const hours = 72;

/** Makes a field check link for each endpoint, as a list to send and as codes to print. */
export function SendChecks({ checks, onClose }: { checks: readonly Check[]; onClose: () => void }) {
  const [made, setMade] = useState<readonly Made[]>([]);
  const { busy, fault, run } = useAction();
  const notice = useNotice();
  const wanted = checks.slice(0, mostAtOnce);
  const make = () =>
    run(async () => {
      const done: Made[] = [];
      for (const check of wanted) {
        const { url, qr } = await call<CheckLinkView>('check-links', 'POST', { location: check.location, endpoint: check.endpoint, hours });
        done.push({ ...check, ...(url ? { url } : {}), ...(qr ? { qr } : {}) });
        setMade([...done]);
      }
    });
  const text = made.map(({ name, url }) => `${name}\t${url}`).join('\n');
  const complete = made.length === wanted.length;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={wanted.length === 1 ? `Field check on ${wanted[0]?.name}` : `${wanted.length} field checks`}
      description="Whoever sits there opens the link or scans the code. Nothing is installed, it takes 40 seconds."
      wide
    >
      {made.length === 0 && !busy && (
        <>
          <p className="text-ink-2">{wanted.map(({ name }) => name).join(', ')}</p>
          {checks.length > wanted.length && (
            <p className="text-ink-3">
              The first {wanted.length} of {checks.length}; make the others when these are done.
            </p>
          )}
          <button className="btn btn-primary mt-3" onClick={() => void make()}>
            Make {wanted.length === 1 ? 'the link' : `${wanted.length} links`}, good for 3 days
          </button>
        </>
      )}
      {busy && (
        <p role="status">
          Making links, {made.length} of {wanted.length}
        </p>
      )}
      <p role="alert" className="text-brick mt-2 empty:hidden">
        {fault}
      </p>
      {made.length > 0 && (complete || fault) && (
        <>
          <p className="text-ink-2">Links are shown this once.</p>
          <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-4">
            {made.map(({ endpoint, name, url, qr }) => (
              <li key={endpoint} className="border-t border-rule pt-2 break-inside-avoid">
                <p className="font-bold">{name}</p>
                {qr && (
                  <span
                    role="img"
                    aria-label={`Code of the field check on ${name}`}
                    className="block w-[150px] bg-[#fff] [&>svg]:w-full"
                    dangerouslySetInnerHTML={{ __html: qr }}
                  />
                )}
                <p className="mono break-all text-ink-2">{url}</p>
              </li>
            ))}
          </ul>
          <p className="mt-3 flex gap-3 no-print">
            <button
              className="btn"
              onClick={() =>
                navigator.clipboard.writeText(text).then(
                  () => notice({ text: 'The links are copied, a line each.' }),
                  () => notice({ text: 'The browser does not let this page copy. Select the links instead.' }),
                )
              }
            >
              Copy all links
            </button>
            <button className="btn" onClick={() => window.print()}>
              Print the codes
            </button>
          </p>
        </>
      )}
    </Dialog>
  );
}
