import { useQuery } from '@tanstack/react-query';
import type { Verdict as VerdictWord } from '@underpass/contracts';
import { CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement, Tooltip } from 'chart.js';
import { useEffect, useRef } from 'react';
import { Failed } from '../ui/States.js';
import { verdictWords } from '../ui/Verdict.js';
import { crossingQueries } from './queries.js';

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

export interface HistoryEntry {
  at: string;
  verdict: VerdictWord;
  delayMs: number;
  frameRate: number;
  cause: string;
}
const level: Record<VerdictWord, number> = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
const names = ['Blocked', 'Limited', 'Unknown', 'Clear'];
const when = (at: string) => new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** The verdict over time as a step, every change that moved it marked and named. */
export function HistoryChart({ id, version }: { id: string; version: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const history = useQuery(crossingQueries.history(id, version));
  const entries = history.data;
  useEffect(() => {
    if (!canvas.current || !entries?.length) return;
    const draw = () => {
      const css = getComputedStyle(document.documentElement);
      const ink = (name: string) => css.getPropertyValue(name).trim();
      const colours: Record<VerdictWord, string> = {
        clear: ink('--tile'),
        limited: ink('--amber'),
        blocked: ink('--brick'),
        unknown: ink('--ink-3'),
      };
      const shapes = { clear: 'circle', limited: 'rect', blocked: 'crossRot', unknown: 'triangle' } as const;
      // the last state reaches to now
      const points = [...entries, { ...(entries.at(-1) as HistoryEntry), at: new Date().toISOString(), cause: 'now' }];
      return new Chart(canvas.current as HTMLCanvasElement, {
        type: 'line',
        data: {
          labels: points.map((entry) => when(entry.at)),
          datasets: [
            {
              data: points.map((entry) => level[entry.verdict]),
              stepped: true,
              borderColor: ink('--bore'),
              borderWidth: 5.5,
              pointBackgroundColor: points.map((entry) => colours[entry.verdict]),
              pointBorderColor: points.map((entry) => colours[entry.verdict]),
              pointStyle: points.map((entry) => shapes[entry.verdict]),
              pointRadius: points.map((entry) => (entry.cause === 'now' ? 0 : 6)),
              pointBorderWidth: 2,
            },
          ],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          layout: { padding: { top: 8, right: 12 } },
          scales: {
            y: {
              min: -0.3,
              max: 3.3,
              ticks: {
                stepSize: 1,
                autoSkip: false,
                color: ink('--ink-2'),
                font: { family: 'Overpass', size: 12.5 },
                callback: (value) => names[Number(value)] ?? '',
              },
              afterBuildTicks: (axis) => void (axis.ticks = [0, 1, 2, 3].map((value) => ({ value }))),
              grid: { color: ink('--rule') },
              border: { display: false },
            },
            x: {
              ticks: { color: ink('--ink-3'), font: { family: 'Overpass', size: 12.5 }, maxRotation: 0, autoSkipPadding: 20 },
              grid: { display: false },
              border: { color: ink('--ink'), width: 1.5 },
            },
          },
          plugins: {
            tooltip: {
              displayColors: false,
              callbacks: {
                label: ({ dataIndex }) => {
                  const entry = points[dataIndex] as HistoryEntry;
                  return [
                    verdictWords[entry.verdict],
                    `${Math.round(entry.delayMs)} ms, ${Math.round(entry.frameRate)} frames`,
                    entry.cause,
                  ];
                },
              },
            },
          },
        },
      });
    };
    let chart = draw();
    const again = () => {
      chart.destroy();
      chart = draw();
    };
    addEventListener('underpass-theme', again);
    return () => {
      removeEventListener('underpass-theme', again);
      chart.destroy();
    };
  }, [entries]);
  if (history.isError) return <Failed what="The history" error={history.error} onRetry={() => void history.refetch()} />;
  return (
    <section aria-labelledby="history" className="mt-6 border-t-[1.5px] border-ink pt-3">
      <h2 id="history">
        Verdict over time <small className="font-normal text-[13px] text-ink-3 ml-2">every change that moved it is marked</small>
      </h2>
      <div className="grid grid-cols-1 min-[1000px]:grid-cols-2 gap-x-12 mt-2">
        <div className="h-[150px]">
          {entries?.length ? (
            <canvas ref={canvas} role="img" aria-label="The verdict over time; the list beside it says the same" />
          ) : (
            <p className="text-ink-3">{entries ? 'No result is recorded yet.' : '·····'}</p>
          )}
        </div>
        <ol className="max-h-[150px] overflow-auto">
          {[...(entries ?? [])].reverse().map((entry) => (
            <li key={`${entry.at}${entry.cause}`} className="border-b border-rule py-0.5 flex gap-3">
              <span className="text-ink-3 whitespace-nowrap w-[96px]">{when(entry.at)}</span>
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
