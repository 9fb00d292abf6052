import type { Verdict, Weekday } from '@underpass/contracts';
import { rateShareAt, workingDay } from '../day/index.js';
import { ageInDays } from '../evidence/index.js';
import type { CrossingFacts } from './facts.js';
import { computeFigures } from './figures.js';
import { activityHere, localHour, othersIn } from './hour.js';
import { othersP95, usableMbps } from './rate.js';
import type { Way } from './way.js';

/** A crossing in one hour of the day. */
export interface DayHour {
  /** Local time, 0 to 23. */
  hour: number;
  works: boolean;
  verdict: Verdict;
  delayMs: number;
  frames: number;
  usableS: number;
  /** What the line carries then towards the place, Mbit/s; null where its rate is not known. */
  lineMbps: number | null;
  /** What the others ask in their busiest second of twenty. */
  othersMbps: number;
  /** What one session gets of it. */
  shareMbps: number | null;
}

/** A crossing over a working day. */
export interface Day {
  zone: string;
  hours: DayHour[];
  days: readonly Weekday[];
  /** Nobody typed when the place works. */
  assumed: boolean;
  /** The hour that the verdict is told for. */
  worst: number;
  /** The hour of the day in which it was measured, 0 up to 24; null where it was not. */
  measured: number | null;
  /** How many days ago that was, and what it still weighs, 1 down to 0. */
  measuredAge: { days: number; weight: number } | null;
  /** This session's own demand in the busiest twentieth of the time, Mbit/s. */
  askedMbps: number;
  sameAllDay: boolean;
}

/** Each hour of a day on which the place works, by the same model as the verdict. Hours in which nothing differs are worked out once. */
export function dayOf(facts: CrossingFacts): Day {
  const { location, line, others, evidence, estate } = facts;
  const { assumed } = estate;
  const { evening, framingShare } = assumed.lines[line.lineKind];
  const day = workingDay(location, assumed.day);
  const now = computeFigures(facts);
  const alike = new Map<string, DayHour>();
  const hours: DayHour[] = [];
  for (let hour = 0; hour < 24; hour++) {
    const works = day.hours.includes(hour);
    const activity = activityHere(location, hour, assumed);
    const key = `${activity}|${rateShareAt(evening, hour)}|${hour === day.hours[0]}`;
    let known = alike.get(key);
    if (!known) {
      const f = computeFigures({ ...facts, hour });
      known = {
        hour,
        works,
        verdict: f.verdict,
        delayMs: f.delay.value,
        frames: f.frames.value,
        usableS: f.timeline.totalS,
        ...ofLine(f.way, framingShare),
        othersMbps: othersP95(othersIn(others, activity), f.settings['transport.capMbps']).down.value,
      };
      alike.set(key, known);
    }
    hours.push({ ...known, hour, works });
  }
  const taken = evidence.roundTrips ?? evidence.downMbps;
  return {
    zone: location.timeZone,
    hours,
    days: day.days,
    assumed: day.assumed,
    worst: now.way.hour,
    measured: taken && taken.at !== '' ? localHour(taken, location.timeZone) : null,
    measuredAge: taken && taken.at !== '' ? { days: ageInDays(taken.at, facts.atMs), weight: taken.weight ?? 1 } : null,
    askedMbps: now.onLine.downP95Mbps,
    sameAllDay: new Set(hours.map(({ verdict, delayMs, frames }) => `${verdict}|${Math.round(delayMs)}|${Math.round(frames)}`)).size === 1,
  };
}

const ofLine = ({ down, available }: Way, framingShare: number) => ({
  lineMbps: down && usableMbps(down, framingShare),
  shareMbps: available?.value ?? null,
});
