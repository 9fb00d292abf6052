import type { DeviceOption } from '@underpass/contracts';
import { costUntil, type CostOfWork, type Crossover } from '@underpass/core';
import { Chart, LinearScale, LineController, LineElement, PointElement, Tooltip, type ChartData, type ChartOptions } from 'chart.js';

Chart.register(LinearScale, LineController, LineElement, PointElement, Tooltip);

/** Money, whole, its thousands apart. */
export const money = (value: number): string => Math.round(value).toLocaleString('en-GB').replaceAll(',', ' ');

const font = { family: 'Overpass', size: 12.5 };
/** Lines are told apart by their dashes as well as their colours. */
const looks = [
  { colour: '--bore', width: 4, dash: [] },
  { colour: '--ink', width: 2, dash: [7, 4] },
  { colour: '--amber', width: 2.5, dash: [2, 3] },
  { colour: '--ink-3', width: 2, dash: [12, 4, 2, 4] },
] as const;
export const lookOf = (i: number): (typeof looks)[number] => looks[i % looks.length] as (typeof looks)[number];

/** What devices cost from year to year, with a mark where another becomes the cheaper one. */
export function costLines(
  options: readonly DeviceOption[],
  work: CostOfWork,
  years: number,
  marks: readonly Crossover[],
): { data: ChartData<'line', { x: number; y: number }[]>; options: ChartOptions<'line'> } {
  const css = getComputedStyle(document.documentElement);
  const ink = (name: string) => css.getPropertyValue(name).trim();
  const points = (option: DeviceOption) => {
    const bought = Array.from({ length: Math.floor(years / option.lifeYears) }, (_, i) => (i + 1) * option.lifeYears);
    const at = [0, ...bought.flatMap((each) => (each < years ? [each, each + 1e-6] : [])), years];
    return at.map((x) => ({ x, y: costUntil(option, work, x).total }));
  };
  return {
    data: {
      datasets: [
        ...options.map((option, i) => ({
          label: option.name,
          data: points(option),
          borderColor: ink(lookOf(i).colour),
          borderWidth: lookOf(i).width,
          borderDash: [...lookOf(i).dash],
          pointRadius: 0,
        })),
        {
          label: 'another becomes cheaper',
          data: marks.map(({ atYears, total }) => ({ x: atYears, y: total })),
          showLine: false,
          pointStyle: 'rectRot',
          pointRadius: 6,
          pointBackgroundColor: ink('--paper'),
          pointBorderColor: ink('--ink'),
          pointBorderWidth: 2,
        },
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      layout: { padding: { top: 8, right: 12 } },
      plugins: { legend: { display: false }, tooltip: { enabled: false } },
      scales: {
        x: {
          type: 'linear',
          min: 0,
          max: years,
          ticks: { stepSize: 1, color: ink('--ink-2'), font },
          grid: { color: ink('--rule') },
          title: { display: true, text: 'Years', color: ink('--ink-3'), font },
        },
        y: { min: 0, ticks: { color: ink('--ink-2'), font, callback: (value) => money(Number(value)) }, grid: { color: ink('--rule') } },
      },
    },
  };
}
