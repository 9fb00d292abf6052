import type { JobView } from '@underpass/contracts';

/** How far long work is, with a way to call it off. */
export function Work({ job, onCancel }: { job: JobView; onCancel?: () => void }) {
  const share = job.total > 0 ? job.done / job.total : 0;
  return (
    <div role="status" className="py-2 flex items-center gap-4">
      <span className="min-w-[150px]">
        {job.state === 'waiting' ? 'Waiting for a worker' : `${job.step[0]?.toUpperCase()}${job.step.slice(1)}`}
      </span>
      <progress className="w-[260px] h-2 accent-[var(--tile)]" aria-label={job.name} value={share} max={1} />
      <span className="text-ink-3 w-[48px] text-right">{Math.round(100 * share)} %</span>
      {onCancel && (
        <button className="btn btn-small" onClick={onCancel}>
          Call it off
        </button>
      )}
    </div>
  );
}
