import type { JobStarted } from '@underpass/contracts';
import { useEffect, useState } from 'react';
import { call, download } from '../api/client.js';
import { cancelJob, useJob } from '../api/jobs.js';
import { useAction } from './useAction.js';
import { Work } from './Work.js';

/** Asks for a file that is made as long work, shows how far it is, and hands it to the browser when it is there. */
export function ExportButton({ path, body, name, children }: { path: string; body?: object; name: string; children: string }) {
  const [asked, setAsked] = useState<string | null>(null);
  const { run, busy, fault, refuse } = useAction();
  const { job, ended, error } = useJob(asked);
  useEffect(() => {
    if (asked === null || !(ended ?? error)) return;
    setAsked(null);
    if (ended?.state === 'done') void run(() => download(`${path}/${ended.id}`, name));
    else refuse(ended?.message ?? error?.message ?? 'It was called off.');
  }, [ended, error, asked, path, name, run, refuse]);
  return (
    <>
      <button
        className="btn"
        disabled={busy || asked !== null}
        onClick={() => void run(async () => setAsked((await call<JobStarted>(path, 'POST', body)).job.id))}
      >
        {children}
      </button>
      {job && (
        <span className="basis-full order-last flex justify-end">
          <Work job={job} onCancel={() => void run(async () => void (await cancelJob(job.id)))} />
        </span>
      )}
      {fault && (
        <span role="alert" className="text-brick basis-full order-last text-right">
          {fault}
        </span>
      )}
    </>
  );
}
