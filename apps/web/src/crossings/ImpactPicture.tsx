import type { Impact } from '@underpass/core';
import { Link } from 'react-router';
import { Arrow } from '../ui/Arrow.js';
import { regional } from '../ui/figures.js';
import { Verdict } from '../ui/Verdict.js';

const width = 308;

/** The line of unchanged crossings steps up for better, down for worse; its long part carries a break mark. */
function Fault({ better, worse, same }: { better: number; worse: number; same: number }) {
  const most = Math.max(1, better + worse);
  const room = same > 0 ? width * 0.55 : width;
  const [up, down] = [better > 0 ? Math.max(14, (better / most) * room) : 0, worse > 0 ? Math.max(14, (worse / most) * room) : 0];
  const scale = up + down > room ? room / (up + down) : 1;
  const [upTo, downFrom] = [up * scale, width - down * scale];
  return (
    <svg viewBox={`0 0 ${width} 66`} className="block w-full max-w-[308px]" aria-hidden>
      {better > 0 && <rect x={0} y={20} width={upTo} height={12} fill="var(--tile)" />}
      {worse > 0 && <rect x={downFrom} y={48} width={width - downFrom} height={12} fill="var(--ink)" />}
      <path d={`M${upTo},20 V38 H${downFrom} V60`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      {same > 0 && (
        <path
          d={`M${(upTo + downFrom) / 2 + 20},43 l5,-10 M${(upTo + downFrom) / 2 + 26},43 l5,-10`}
          stroke="var(--ink)"
          strokeWidth="1.5"
          fill="none"
        />
      )}
    </svg>
  );
}

const share = (value: number): string => `${Math.round(value * 100)} %`;

/** What a change does to everybody: the fault, verdict to verdict, who loses, the lines, and what moves beside. */
export function ImpactPicture({ data }: { data: Impact }) {
  const same = Math.max(0, data.crossings - data.better - data.worse);
  const { beside } = data;
  return (
    <div>
      <p className="sr-only">
        {data.better} crossings get better, {data.worse} get worse, {same} stay as they are.
      </p>
      <p className="flex justify-between" aria-hidden>
        <span>
          <b className="text-[18px] leading-6 text-tile">{data.better}</b> better
        </span>
        <span>
          <b className="text-[15px]">{same}</b> unchanged
        </span>
        <span>
          <b className="text-[15px]">{data.worse}</b> worse
        </span>
      </p>
      <Fault better={data.better} worse={data.worse} same={same} />
      {data.moves.length > 0 ? (
        <ul className="border-t border-rule" aria-label="From verdict to verdict, in people">
          {data.moves.map((move) => (
            <li key={`${move.from}${move.to}`} className="border-b border-rule py-1 flex items-center">
              <span className="flex-1">
                <Verdict verdict={move.from} />
                <Arrow />
                <Verdict verdict={move.to} />
              </span>
              <b>{move.people}</b>
            </li>
          ))}
        </ul>
      ) : (
        <p className="border-t border-rule py-1">No verdict becomes another.</p>
      )}
      {data.improved + data.weakened > 0 && (
        <p className="border-b border-rule py-1 text-ink-2">
          In the same verdict: {data.improved} crossings better, {data.weakened} worse.
        </p>
      )}
      {data.newlyBlocked > 0 && (
        <p className="py-1 text-brick font-semibold">
          {data.newlyBlocked === 1
            ? '1 crossing opens now and would not any more.'
            : `${data.newlyBlocked} crossings open now and would not any more.`}
        </p>
      )}
      {beside && <Beside beside={beside} />}
      {data.lines.length > 0 && (
        <section aria-label="Lines" className="mt-3">
          <h3 className="font-bold">Lines in the busy hour</h3>
          <table className="w-full mt-1">
            <thead className="head">
              <tr>
                <th scope="col">Place</th>
                <th scope="col" className="text-right">
                  now
                </th>
                <th scope="col" className="text-right">
                  then
                </th>
              </tr>
            </thead>
            <tbody>
              {data.lines.slice(0, 6).map((line) => (
                <tr key={line.location} className="border-b border-rule">
                  <th scope="row" className="text-left font-normal py-1">
                    {line.name}
                  </th>
                  <td className="text-right">{share(line.before)}</td>
                  <td className={`text-right font-bold ${line.after >= 1 ? 'text-amber' : ''}`}>{share(line.after)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {data.lines.length > 6 && <p className="text-ink-3">and {data.lines.length - 6} more</p>}
        </section>
      )}
      <h3 className="font-bold mt-3">{data.losers.length > 0 ? 'Who gets worse' : 'Nobody gets worse'}</h3>
      <People list={data.losers} />
      {data.winners.length > 0 && (
        <>
          <h3 className="font-bold mt-3">Who gets better</h3>
          <People list={data.winners} />
        </>
      )}
    </div>
  );
}

function People({ list }: { list: Impact['losers'] }) {
  return (
    <ul>
      {list.map((loser) => (
        <li key={loser.crossing} className="border-b border-rule py-1">
          <span className="flex gap-2">
            <Link className="link flex-1" to={`/crossings/${encodeURIComponent(loser.crossing)}`}>
              {loser.person}
            </Link>
            <Verdict verdict={loser.to} />
          </span>
          <span className="text-[12.5px] text-ink-2 block">
            {loser.place}: {regional(loser.text)}
          </span>
        </li>
      ))}
    </ul>
  );
}

function Beside({ beside }: { beside: NonNullable<Impact['beside']> }) {
  const lines = [
    beside.devicesStop > 0 && `On ${beside.devicesStop} crossings a device stops working.`,
    beside.devicesStart > 0 && `On ${beside.devicesStart} crossings a device starts working.`,
    beside.softer > 0 && `Text is less sharp on ${beside.softer}.`,
    beside.sharper > 0 && `Text is sharper on ${beside.sharper}.`,
    Math.abs(beside.secondsMean) >= 0.1 &&
      `A sign-on takes ${Math.abs(beside.secondsMean).toFixed(1)} s ${beside.secondsMean > 0 ? 'longer' : 'less'} on average.`,
  ].filter((line) => line !== false);
  return lines.length === 0 ? null : (
    <ul className="py-1 text-ink-2">
      {lines.map((line) => (
        <li key={line}>{regional(line)}</li>
      ))}
    </ul>
  );
}
