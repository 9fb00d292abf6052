import type { Weekday } from '@underpass/contracts';
import { clock, type Day } from '@underpass/core';
import { Link } from 'react-router';
import { TideStrip } from '../drawing/TideStrip.js';
import { stretches } from '../drawing/tideGeometry.js';
import { Verdict, verdictWords } from '../ui/Verdict.js';
import { fixed } from '../ui/figures.js';

const dayWords: Record<Weekday, string> = {
  mon: 'Monday',
  tue: 'Tuesday',
  wed: 'Wednesday',
  thu: 'Thursday',
  fri: 'Friday',
  sat: 'Saturday',
  sun: 'Sunday',
};
const week = Object.keys(dayWords) as Weekday[];

/** Days as they are told. @example Monday to Friday */
function daysOf(days: readonly Weekday[]): string {
  if (days.length === 7) return 'every day';
  const places = days.map((day) => week.indexOf(day)).sort((a, b) => a - b);
  const together = places.every((place, i) => i === 0 || place === (places[i - 1] as number) + 1);
  const names = places.map((place) => dayWords[week[place] as Weekday]);
  return together && names.length > 2 ? `${names[0]} to ${names.at(-1)}` : names.join(', ');
}

/** The stretches of working hours that come out alike, as one sentence each. */
function verdictsOf({ hours }: Day): string {
  const works = hours.filter((one) => one.works);
  const found = new Map<string, Day['hours']>();
  for (const one of works) found.set(one.verdict, [...(found.get(one.verdict) ?? []), one]);
  if (found.size === 1) return `${verdictWords[works[0]?.verdict ?? 'unknown']} in every working hour.`;
  return `${[...found]
    .map(
      ([verdict, list]) =>
        `${verdictWords[verdict as keyof typeof verdictWords]} ${stretches(list.map((one) => one))
          .map(([from, to]) => `${clock(from)} to ${clock(to)}`)
          .join(', ')}`,
    )
    .join('; ')}.`;
}

/** @example ", 445 days ago, and weighs 25 %" */
function agoOf(age: Day['measuredAge']): string {
  if (!age || age.days === 0) return '';
  const days = age.days === 1 ? ', a day ago' : `, ${age.days} days ago`;
  return age.weight < 1 ? `${days}, and weighs ${Math.round(age.weight * 100)} %` : days;
}

/** A crossing over the hours of a working day: where its line is narrowest, and in which hour it was measured. */
export function DayPanel({ day, location, shared }: { day: Day; location: { id: string; name: string }; shared: boolean }) {
  const { hours, zone, days, assumed, worst, measured, measuredAge, sameAllDay } = day;
  const works = stretches(hours)
    .map(([from, to]) => `${clock(from)} to ${clock(to)}`)
    .join(', ');
  return (
    <section aria-labelledby="day" className="mt-6 border-t-[1.5px] border-ink pt-3">
      <h2 id="day">
        Over the day{' '}
        <small className="font-normal text-[13px] text-ink-3 ml-2">
          {works}, {daysOf(days)}, {zone}
          {assumed && (
            <>
              {' '}
              – assumed:{' '}
              <Link className="link" to={`/estate/location/${encodeURIComponent(location.id)}`}>
                say when {location.name} works
              </Link>
            </>
          )}
        </small>
      </h2>
      <p className="text-ink-2 mt-1">
        {verdictsOf(day)}{' '}
        {sameAllDay
          ? shared
            ? 'No hour makes a difference here.'
            : 'Nobody shares this line, so no hour makes a difference.'
          : `The verdict is told for ${clock(worst)} to ${clock(worst + 1)}, when the line gives least.`}{' '}
        {measured !== null && `Measured at ${clock(measured)}${agoOf(measuredAge)}.`}
      </p>
      {!sameAllDay && (
        <>
          <TideStrip day={day} />
          <p className="flex flex-wrap gap-x-[18px] text-[12.5px] text-ink-2">
            <span>thick line: what the line carries</span>
            <span>hatched: what the others ask in their busiest moments</span>
            <span>green on top: this session</span>
            <span>bracket: the hour of the verdict</span>
          </p>
          <HourTable hours={hours} />
        </>
      )}
    </section>
  );
}

const figure = (value: number | null, digits = 0) => (value === null ? 'not known' : fixed(value, digits));

function HourTable({ hours }: { hours: Day['hours'] }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer">Hour by hour</summary>
      <table className="border-collapse mt-1">
        <thead>
          <tr className="text-ink-3 border-b-[1.5px] border-ink text-right">
            <th className="font-normal text-left pr-4">Hour</th>
            <th className="font-normal text-left pr-4">Verdict</th>
            <th className="font-normal pl-4">Key to pixel, ms</th>
            <th className="font-normal pl-4">Frames</th>
            <th className="font-normal pl-4">Usable after, s</th>
            <th className="font-normal pl-4">Line, Mbit/s</th>
            <th className="font-normal pl-4">Others, Mbit/s</th>
            <th className="font-normal pl-4">This session can have</th>
          </tr>
        </thead>
        <tbody>
          {hours.map((one) => (
            <tr key={one.hour} className={`border-b border-rule text-right ${one.works ? '' : 'text-ink-3'}`}>
              <th scope="row" className="font-normal text-left pr-4">
                {clock(one.hour)}
              </th>
              <td className="text-left pr-4">
                <Verdict verdict={one.verdict} />
              </td>
              <td>{figure(one.delayMs)}</td>
              <td>{figure(one.frames)}</td>
              <td>{figure(one.usableS, 1)}</td>
              <td>{figure(one.lineMbps, 1)}</td>
              <td>{figure(one.othersMbps, 1)}</td>
              <td>{figure(one.shareMbps, 1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
