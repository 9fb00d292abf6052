import type { Verdict } from '@underpass/contracts';
import {
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartData,
  type ChartOptions,
} from 'chart.js';
import { shortMoment } from '../ui/times.js';
import { verdictWords } from '../ui/Verdict.js';

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

export interface HistoryEntry {
  at: string;
  verdict: Verdict;
  delayMs: number;
  frameRate: number;
  cause: string;
}
const level: Record<Verdict, number> = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
const names = ['Blocked', 'Limited', 'Unknown', 'Clear'];
const shapes = { clear: 'circle', limited: 'rect', blocked: 'crossRot', unknown: 'triangle' } as const;
const font = { family: 'Overpass', size: 12.5 };
/** Verdicts over time as a line, in the colours of the theme as it is now. */
export function historyLine(entries: readonly HistoryEntry[]): { data: ChartData<'line'>; options: ChartOptions<'line'> } {
  const css = getComputedStyle(document.documentElement);
  const ink = (name: string) => css.getPropertyValue(name).trim();
  const colours: Record<Verdict, string> = {
    clear: ink('--tile'),
    limited: ink('--amber'),
    blocked: ink('--brick'),
    unknown: ink('--ink-3'),
  };
  // the last state reaches to now
  const points = [...entries, { ...(entries.at(-1) as HistoryEntry), at: new Date().toISOString(), cause: 'now' }];
  return {
    data: {
      labels: points.map((entry) => shortMoment(entry.at)),
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
            font,
            callback: (value) => names[Number(value)] ?? '',
          },
          afterBuildTicks: (axis) => void (axis.ticks = [0, 1, 2, 3].map((value) => ({ value }))),
          grid: { color: ink('--rule') },
          border: { display: false },
        },
        x: {
          ticks: { color: ink('--ink-3'), font, maxRotation: 0, autoSkipPadding: 20 },
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
              return [verdictWords[entry.verdict], `${Math.round(entry.delayMs)} ms, ${Math.round(entry.frameRate)} frames`, entry.cause];
            },
          },
        },
      },
    },
  };
}
