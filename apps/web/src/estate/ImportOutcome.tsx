import type { ImportJob } from '@underpass/contracts';
import { Link } from 'react-router';

const heads: Record<ImportJob['state'], string> = {
  running: '',
  checked: 'Dry run: nothing is written yet',
  applied: 'Imported',
  rejected: 'Rejected: nothing was changed',
  failed: 'Not finished',
};

/** What a dry run found, or what was written; each rejected row with file, line, field, fault and what would be right. */
export function ImportOutcome({ job }: { job: ImportJob }) {
  const { result } = job;
  return (
    <section aria-labelledby="outcome" className="mt-5 border-t-[1.5px] border-ink pt-3">
      <div role="status">
        <h2 id="outcome">{heads[job.state]}</h2>
      </div>
      {job.message && <p className="text-ink-2">{job.message}</p>}
      {result && (
        <dl className="flex gap-8 mt-2">
          {(
            [
              ['added', result.added],
              ['changed', result.changed],
              ['unchanged', result.unchanged],
              ['new measurements', result.measurements],
              ['rejected', result.rejectedTotal],
            ] as const
          ).map(([name, n]) => (
            <div key={name}>
              <dt className="text-ink-3">{name}</dt>
              <dd className={`text-[16px] font-bold ${name === 'rejected' && n > 0 ? 'text-brick' : ''}`}>{n}</dd>
            </div>
          ))}
        </dl>
      )}
      {result && result.rejected.length > 0 && (
        <div className="overflow-auto max-h-[420px] mt-3">
          <table className="w-full border-collapse">
            <thead className="sticky top-0 bg-paper">
              <tr className="head">
                {['File', 'Line', 'Field', 'What is wrong', 'What would be right'].map((name) => (
                  <th key={name} scope="col" className="font-normal text-left py-1 pr-4">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {result.rejected.map((row, i) => (
                <tr key={i} className="border-b border-rule align-top">
                  <td className="mono pr-4 py-1">{row.file}</td>
                  <td className="pr-4 py-1 text-right">{row.line}</td>
                  <td className="mono pr-4 py-1">{row.field}</td>
                  <td className="pr-4 py-1 text-brick">{row.problem}</td>
                  <td className="py-1">{row.expected}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {result.rejectedTotal > result.rejected.length && (
            <p className="text-ink-3 py-2">and {result.rejectedTotal - result.rejected.length} more</p>
          )}
        </div>
      )}
      {result && result.sample.length > 0 && (
        <details className="mt-3" open={result.rejected.length === 0}>
          <summary className="cursor-pointer font-semibold">What {job.state === 'applied' ? 'was' : 'would be'} written</summary>
          <ul className="max-h-[300px] overflow-auto mt-1">
            {result.sample.map((row) => (
              <li key={`${row.kind}/${row.id}`} className="border-b border-rule py-0.5 flex gap-4">
                <span className="w-[80px] text-ink-2">{row.change}</span>
                <span className="w-[90px]">{row.kind}</span>
                {job.state === 'applied' ? (
                  <Link className="link mono" to={`/estate/${row.kind}/${encodeURIComponent(row.id)}`}>
                    {row.id}
                  </Link>
                ) : (
                  <span className="mono">{row.id}</span>
                )}
                <span className="text-ink-3 flex-1 truncate">{row.fields.join(', ')}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
