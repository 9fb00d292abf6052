import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { ImportJob } from '@underpass/contracts';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { useTitle } from '../shell/useTitle.js';
import { ImportOutcome } from './ImportOutcome.js';
import { useAction } from '../ui/useAction.js';
import { useDrop } from '../ui/useDrop.js';
import { estateQueries } from './queries.js';
import { BackToEstate } from '../ui/BackToEstate.js';

const mostBytes = 70_000_000;

/** Bring an estate in: a dry run first, then all or nothing. */
export function ImportPage() {
  const [files, setFiles] = useState<Record<string, string>>({});
  const [jobId, setJobId] = useState<string | null>(null);
  const { fault, refuse, run } = useAction();
  const client = useQueryClient();
  const job = useQuery(estateQueries.import(jobId));
  useTitle('Import');
  useEffect(() => {
    if (job.data?.state === 'applied') void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'import' });
  }, [job.data?.state, client]);
  const start = (chosen: Record<string, string>, apply: boolean, seen?: number) => {
    setJobId(null);
    return run(async () => setJobId((await call<ImportJob>('estate/import', 'POST', { files: chosen, apply, seen })).id));
  };
  const take = async (list: FileList | null) => {
    const chosen = [...(list ?? [])].filter((file) => /\.(csv|ya?ml)$/.test(file.name));
    if (chosen.length === 0)
      return refuse('There is no CSV or YAML file among them. An estate folder holds files such as people.csv and pools.yaml.');
    if (chosen.reduce((sum, file) => sum + file.size, 0) > mostBytes)
      return refuse('These files are larger than 70 MB together. Import them in parts.');
    const texts = Object.fromEntries(await Promise.all(chosen.map(async (file) => [file.name, await file.text()] as const)));
    setFiles(texts);
    await start(texts, false);
  };
  const running = jobId !== null && (job.data?.state === 'running' || job.isPending);
  const result = job.data?.result;
  return (
    <div className="px-6 pt-[15px] max-w-[1180px]">
      <BackToEstate />
      <h1>Import an estate folder</h1>
      <p className="text-ink-2 mt-1">
        First it is only compared: you see what would be added and changed, and every row that is wrong. Nothing is written until you say
        so, and then all of it or nothing.
      </p>
      <p className="text-ink-2 mt-1">
        No folder yet? Take{' '}
        <a className="link" href="/api/intake/template" download>
          an empty one to fill in
        </a>
        , with every column explained, or{' '}
        <a className="link" href="/api/intake/demo-folder" download>
          the demo as an example
        </a>
        . A list of your own, as it is, goes in under{' '}
        <Link className="link" to="/estate/list">
          Take in a list
        </Link>
        .
      </p>
      <DropFiles names={Object.keys(files)} onTake={(list) => void take(list)} />
      <p role="alert" className="text-brick mt-3 empty:hidden">
        {fault}
      </p>
      {running && (
        <p role="status" className="mt-4">
          {job.data ? `${job.data.step[0]?.toUpperCase()}${job.data.step.slice(1)}` : 'Sending the files'}
          {job.data && job.data.total > 1 ? `, ${job.data.done} of ${job.data.total}` : ''}
          <progress
            className="block w-[360px] mt-1.5 h-2 accent-[var(--tile)]"
            value={job.data?.done ?? 0}
            max={Math.max(1, job.data?.total ?? 1)}
          />
        </p>
      )}
      {job.data && !running && <ImportOutcome job={job.data} />}
      {job.data?.state === 'checked' && result && (
        <div className="mt-4 flex gap-3 items-center">
          <button
            className="btn btn-primary"
            disabled={result.added + result.changed + result.measurements === 0}
            onClick={() => void start(files, true, result.version)}
          >
            Import {result.added + result.changed + result.measurements} changes
          </button>
          {result.added + result.changed + result.measurements === 0 && (
            <span className="text-ink-2">Everything in it is in the estate already.</span>
          )}
        </div>
      )}
      {job.data?.state === 'rejected' && result?.rejectedTotal === 0 && (
        <button className="btn btn-primary mt-4" onClick={() => void start(files, false)}>
          Compare again
        </button>
      )}
      {job.data?.state === 'applied' && (
        <p className="mt-4 flex gap-3">
          <Link className="btn btn-primary" to="/board">
            Go to the Board
          </Link>
          <Link className="btn" to="/estate/changes">
            See the change
          </Link>
        </p>
      )}
    </div>
  );
}

/** Where files or a folder are dropped or chosen. */
function DropFiles({ names, onTake }: { names: readonly string[]; onTake: (files: FileList | null) => void }) {
  const { over, listens } = useDrop(onTake);
  const folder = useRef<HTMLInputElement>(null);
  useEffect(() => {
    folder.current?.setAttribute('webkitdirectory', '');
  }, []);
  return (
    <div className={`mt-4 border border-dashed border-rule-2 p-5 ${over ? 'bg-tile-wash' : 'bg-sheet'}`} {...listens}>
      <div className="flex flex-wrap gap-3 items-center">
        <label className="btn btn-primary focus-within:outline-2">
          Choose files
          <input type="file" multiple accept=".csv,.yaml,.yml" className="sr-only" onChange={(event) => onTake(event.target.files)} />
        </label>
        <label className="btn focus-within:outline-2">
          Choose a folder
          <input ref={folder} type="file" multiple className="sr-only" onChange={(event) => onTake(event.target.files)} />
        </label>
        <span className="text-ink-3">or drop the files here</span>
      </div>
      {names.length > 0 && <p className="mono mt-3 text-ink-2">{[...names].sort().join('  ')}</p>}
    </div>
  );
}
