import type { JobStarted } from '@underpass/contracts';
import { useEffect, useEffectEvent, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { call, download } from '../api/client.js';
import { cancelJob, useJob } from '../api/jobs.js';
import { useAction } from './useAction.js';
import { Work } from './Work.js';

/** Asks for a file that is made as long work, shows how far it is, and hands it to the browser when it is there. */
export function ExportButton({
  path,
  body,
  name,
  small = false,
  children,
}: {
  path: string;
  body?: object;
  name: string;
  small?: boolean;
  children: string;
}) {
  const [asked, setAsked] = useState<string | null>(null);
  const { run, busy, fault, refuse } = useAction();
  const { job, ended, error } = useJob(asked);
  const start = () => void run(async () => setAsked((await call<JobStarted>(path, 'POST', body)).job.id));
  useEffect(() => {
    if (asked === null || !(ended ?? error)) return;
    setAsked(null);
    if (ended?.state === 'done') void run(() => download(`${path}/${ended.id}`, name));
    else refuse(ended?.message ?? error?.message ?? 'It was called off.');
  }, [ended, error, asked, path, name, run, refuse]);
  // asked for from elsewhere: not by the address, which anybody may write
  const { state, search } = useLocation();
  const navigate = useNavigate();
  const wanted = (state as { exports?: string } | null)?.exports === name;
  const begin = useEffectEvent(start);
  useEffect(() => {
    if (!wanted) return;
    void navigate({ search }, { replace: true, state: null });
    begin();
  }, [wanted, navigate, search]);
  // below the button and over what is there, so that nothing moves; on a telephone at the foot
  const beneath =
    'absolute right-0 top-[calc(100%+6px)] z-20 bg-sheet border border-ink px-3 w-max max-[759px]:fixed max-[759px]:inset-x-4 max-[759px]:bottom-4 max-[759px]:top-auto max-[759px]:w-auto';
  return (
    <span className="relative inline-flex">
      <button className={small ? 'btn btn-small' : 'btn'} disabled={busy || asked !== null} onClick={start}>
        {children}
      </button>
      {job && (
        <div className={beneath}>
          <Work job={job} onCancel={() => void run(async () => void (await cancelJob(job.id)))} />
        </div>
      )}
      {fault && (
        <p role="alert" className={`${beneath} py-2 text-brick max-w-[420px]`}>
          {fault}
        </p>
      )}
    </span>
  );
}
