import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Line } from 'react-chartjs-2';
import { Failed } from '../ui/States.js';
import { momentAt, shortMoment } from '../ui/times.js';
import { verdictWords } from '../ui/Verdict.js';
import { historyLine } from './historyLine.js';
import { crossingQueries } from './queries.js';

/** The verdict over time as a step, every change that moved it marked and named. */
export function HistoryChart({ id, version, zone }: { id: string; version: number; /** That of the place. */ zone: string }) {
  const history = useQuery(crossingQueries.history(id, version));
  const entries = history.data;
  // the colours are the theme's: with another theme the line is made anew
  const [round, setRound] = useState(0);
  useEffect(() => {
    const again = () => setRound((n) => n + 1);
    addEventListener('underpass-theme', again);
    return () => removeEventListener('underpass-theme', again);
  }, []);
  if (history.isError) return <Failed what="The history" error={history.error} onRetry={() => void history.refetch()} />;
  return (
    <section aria-labelledby="history" className="mt-6 border-t-[1.5px] border-ink pt-3">
      <h2 id="history">
        Verdict over time <small className="font-normal text-[13px] text-ink-3 ml-2">every change that moved it is marked</small>
      </h2>
      <div className="grid grid-cols-1 min-[1000px]:grid-cols-2 gap-x-12 mt-2">
        <div className="h-[150px]">
          {entries?.length ? (
            <Line key={round} {...historyLine(entries)} role="img" aria-label="The verdict over time; the list beside it says the same" />
          ) : (
            <p className="text-ink-3">{entries ? 'No result is recorded yet.' : '·····'}</p>
          )}
        </div>
        <ol className="max-h-[150px] overflow-auto relative" tabIndex={0} aria-label="Every change that moved it, the last first">
          {[...(entries ?? [])].reverse().map((entry) => (
            <li key={`${entry.at}${entry.cause}`} className="border-b border-rule py-0.5 flex gap-3">
              <span className="text-ink-3 whitespace-nowrap w-[96px]" title={momentAt(entry.at, zone)}>
                {shortMoment(entry.at)}
              </span>
              <b className="w-[64px]">{verdictWords[entry.verdict]}</b>
              <span className="whitespace-nowrap text-ink-2">{Math.round(entry.delayMs)} ms</span>
              <span className="flex-1 truncate" title={entry.cause}>
                {entry.cause}
              </span>
            </li>
          ))}
        </ol>
      </div>
    </section>
  );
}
