import { useQuery } from '@tanstack/react-query';
import type { DeviceOption } from '@underpass/contracts';
import { costUntil, crossovers, type CostOfWork, type Crossover } from '@underpass/core';
import { useEffect, useState } from 'react';
import { Line } from 'react-chartjs-2';
import { Link } from 'react-router';
import { useTitle } from '../../shell/useTitle.js';
import { Labelled } from '../../ui/form/Labelled.js';
import { Empty, NotHere } from '../../ui/States.js';
import { useTyped } from '../../ui/useTyped.js';
import { Wide } from '../../ui/Wide.js';
import { Sheet } from '../Sheet.js';
import { bringupQueries } from '../queries.js';
import { costLines, lookOf, money } from './costLines.js';

/** What a year of work is taken to come to until somebody says otherwise; common practice, no source. */
const usual = { hoursPerYear: '2000', perKwh: '0.25', perSupportHour: '60', years: '10', devices: '1' };
const asked = [
  ['hoursPerYear', 'Hours on a year', 0, 8784],
  ['perKwh', 'Price of a kWh', 0, 100],
  ['perSupportHour', 'Support, an hour', 0, 10_000],
  ['years', 'Years looked at', 1, 30],
  ['devices', 'Devices', 1, 100_000],
] as const;
const read = (text: string): number => (text.trim() === '' ? NaN : Number(text.replace(',', '.')));
const years = (value: number): string => (Math.round(value * 10) / 10).toString();

/** Kinds of devices over their life: what they cost, and where another becomes the cheaper one. */
export function CostPage() {
  useTitle('Cost of devices');
  const answer = useQuery(bringupQueries.options());
  const [typed, setTyped] = useTyped('device-cost', usual);
  if (!answer.data) return <NotHere asked={answer} awaits="the devices to buy" what="The cost of devices" />;
  const { options } = answer.data;
  const wrong = new Set(asked.filter(([key, , min, max]) => !(read(typed[key]) >= min && read(typed[key]) <= max)).map(([key]) => key));
  const value = (key: keyof typeof usual) => read(wrong.has(key) ? usual[key] : typed[key]);
  const work: CostOfWork = { hoursPerYear: value('hoursPerYear'), perKwh: value('perKwh'), perSupportHour: value('perSupportHour') };
  return (
    <Sheet back={{ to: '/bringup', name: 'Bring-up' }}>
      {options.length === 0 ? (
        <>
          <h1>What devices cost over their life</h1>
          <Empty
            action={
              <Link className="btn" to="/estate/deviceOption/new">
                Describe a device to buy
              </Link>
            }
          >
            No device to buy is described yet. Say its price, its life, and what it takes a year.
          </Empty>
        </>
      ) : (
        <Compared options={options} work={work} until={value('years')} devices={value('devices')} />
      )}
      {options.length > 0 && (
        <fieldset className="mt-6">
          <legend className="font-bold">What a year comes to</legend>
          <div className="mt-2 grid gap-y-2 gap-x-3 grid-cols-[132px_minmax(0,1fr)] min-[900px]:grid-cols-[132px_140px_132px_140px_132px_140px] items-baseline">
            {asked.map(([key, label, min, max]) => (
              <Labelled
                key={key}
                id={`cost-${key}`}
                label={label}
                className="field w-[92px]"
                inputMode="decimal"
                value={typed[key]}
                onChange={({ target }) => setTyped({ ...typed, [key]: target.value })}
                fault={wrong.has(key) ? `${min} to ${max}; ${usual[key]} is reckoned with` : undefined}
              />
            ))}
          </div>
        </fieldset>
      )}
    </Sheet>
  );
}

interface Turn extends Crossover {
  over: string;
}

function Compared({
  options,
  work,
  until,
  devices,
}: {
  options: readonly DeviceOption[];
  work: CostOfWork;
  until: number;
  devices: number;
}) {
  // the colours are the theme's: with another theme the lines are made anew
  const [round, setRound] = useState(0);
  useEffect(() => {
    const again = () => setRound((n) => n + 1);
    addEventListener('underpass-theme', again);
    return () => removeEventListener('underpass-theme', again);
  }, []);
  const turns = options
    .flatMap((a, i) =>
      options
        .slice(i + 1)
        .flatMap((b): Turn[] => crossovers(a, b, work, until).map((each) => ({ ...each, over: each.cheaper === a.id ? b.id : a.id }))),
    )
    .sort((a, b) => a.atYears - b.atYears);
  const nameOf = (id: string) => options.find((option) => option.id === id)?.name ?? id;
  const cheapest = [...options].sort((a, b) => costUntil(a, work, until).total - costUntil(b, work, until).total)[0] as DeviceOption;
  const lead = turns.findLast((turn) => turn.cheaper === cheapest.id);
  return (
    <>
      <h1>
        {lead ? `${cheapest.name}: the cheapest from ${years(lead.atYears)} years on` : `${cheapest.name}: the cheapest from the first day`}
      </h1>
      <p className="text-ink-2 max-w-[72ch]">
        What one device costs until then: bought, and bought again at the end of its life; licences, support, energy, and what is lost. In
        the currency that you typed; without interest.
      </p>
      <div className="mt-4 grid gap-x-8 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-[minmax(0,1fr)_300px]">
        <div className="h-[300px] min-w-0">
          <Line
            key={round}
            {...costLines(options, work, until, turns)}
            role="img"
            aria-label="Cost over the years; the table beneath says the same"
          />
        </div>
        <div className="min-w-0">
          <ul>
            {options.map((option, i) => (
              <li key={option.id} className="flex gap-3 items-center py-0.5">
                <svg width="42" height="8" aria-hidden="true">
                  <line
                    x1="0"
                    x2="42"
                    y1="4"
                    y2="4"
                    style={{ stroke: `var(${lookOf(i).colour})` }}
                    strokeWidth={lookOf(i).width}
                    strokeDasharray={lookOf(i).dash.join(' ')}
                  />
                </svg>
                <Link className="link min-h-[24px] inline-flex items-center" to={`/estate/deviceOption/${encodeURIComponent(option.id)}`}>
                  {option.name}
                </Link>
              </li>
            ))}
          </ul>
          <ol className="mt-3 border-t border-rule" aria-label="Where another becomes cheaper">
            {turns.map((turn) => (
              <li key={`${turn.atYears}${turn.cheaper}${turn.over}`} className="border-b border-rule py-1">
                <strong>{years(turn.atYears)} years</strong>: {nameOf(turn.cheaper)} becomes cheaper than {nameOf(turn.over)}
                {turn.step && ', which is bought again'}
              </li>
            ))}
            {turns.length === 0 && <li className="py-1 text-ink-2">None becomes cheaper than another within this time.</li>}
          </ol>
        </div>
      </div>
      <Wide label="What each costs" className="mt-4">
        <table className="w-full">
          <thead>
            <tr className="text-left text-ink-3 border-b-[1.5px] border-ink">
              <th className="font-normal py-1 pr-4">
                In {years(until)} years{devices > 1 && `, ${devices} devices`}
              </th>
              {['Bought', 'Licences', 'Support', 'Energy', 'Lost', 'All'].map((head) => (
                <th key={head} className="font-normal py-1 pl-4 text-right">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {options.map((option) => {
              const { bought, licence, support, energy, lost, total } = costUntil(option, work, until);
              return (
                <tr key={option.id} className={`border-b border-rule ${option.id === cheapest.id ? 'font-bold' : ''}`}>
                  <td className="py-1 pr-4">{option.name}</td>
                  {[bought, licence, support, energy, lost, total].map((value, i) => (
                    <td key={i} className="py-1 pl-4 text-right whitespace-nowrap">
                      {money(value * devices)}
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </Wide>
    </>
  );
}
