import type { DeviceOption } from '@underpass/contracts';

/** What a year of work comes to, whatever the device. */
export interface CostOfWork {
  /** Hours a year that a device is on. */
  hoursPerYear: number;
  /** Price of energy, money a kWh. */
  perKwh: number;
  /** Price of support, money an hour. */
  perSupportHour: number;
}

/** What one device costs until an instant, by what it is for; money. */
export interface CostUntil {
  bought: number;
  licence: number;
  support: number;
  energy: number;
  lost: number;
  total: number;
}

/** What a device costs a year besides being bought, money. */
function yearly(option: DeviceOption, work: CostOfWork): Omit<CostUntil, 'bought' | 'total'> {
  return {
    licence: option.licencePerYear,
    support: (option.supportMinutesPerYear / 60) * work.perSupportHour,
    energy: (option.watts / 1000) * work.hoursPerYear * work.perKwh,
    // what is lost is bought again, with what belongs to it
    lost: (option.lostPercentPerYear / 100) * (option.purchase + option.accessories),
  };
}

/**
 * What one device costs from its purchase until so many years later: bought at the beginning and again whenever its life is over, and what it
 * takes year by year. Its accessories go with it. Without interest.
 * @param years 0 or more
 */
export function costUntil(option: DeviceOption, work: CostOfWork, years: number): CostUntil {
  const each = yearly(option, work);
  // at the very end of a life the next one is not bought yet
  const times = Math.max(1, Math.ceil(years / option.lifeYears - 1e-9));
  const bought = times * (option.purchase + option.accessories);
  const [licence, support, energy, lost] = [each.licence * years, each.support * years, each.energy * years, each.lost * years];
  return { bought, licence, support, energy, lost, total: bought + licence + support + energy + lost };
}

/** Where one kind of device becomes dearer than another that was dearer before. */
export interface Crossover {
  atYears: number;
  /** The one that is cheaper from there on. */
  cheaper: string;
  /** Money that both have cost by then. */
  total: number;
  /** A device is bought again just there: what is cheaper changes by a step. */
  step: boolean;
}

/**
 * Every point up to a number of years at which another of two devices becomes the cheaper one. Between purchases both go up in a line, so that
 * each is exact.
 */
export function crossovers(a: DeviceOption, b: DeviceOption, work: CostOfWork, untilYears: number): Crossover[] {
  const found: Crossover[] = [];
  const slope = (option: DeviceOption) => Object.values(yearly(option, work)).reduce((sum, each) => sum + each, 0);
  const lead = slope(a) - slope(b);
  const ends = (option: DeviceOption) =>
    Array.from({ length: Math.floor(untilYears / option.lifeYears) }, (_, i) => (i + 1) * option.lifeYears).filter((at) => at < untilYears);
  const marks = [...new Set([0, ...ends(a), ...ends(b), untilYears])].sort((x, y) => x - y);
  let cheaper: string | null = null;
  const turn = (to: string, atYears: number, step: boolean) => {
    if (cheaper !== null && cheaper !== to)
      found.push({ atYears, cheaper: to, total: costUntil(to === a.id ? a : b, work, atYears).total, step });
    cheaper = to;
  };
  for (const [i, from] of marks.slice(0, -1).entries()) {
    const to = marks[i + 1] ?? untilYears;
    // just behind a purchase
    const soon = from + Math.min(1e-6, (to - from) / 2);
    const apart = costUntil(a, work, soon).total - costUntil(b, work, soon).total - lead * (soon - from);
    if (Math.abs(apart) > 1e-9) turn(apart < 0 ? a.id : b.id, from, true);
    // level here, the one that goes up less is cheaper from here on
    else if (lead !== 0) turn(lead > 0 ? b.id : a.id, from, true);
    const at = lead === 0 ? Infinity : from - apart / lead;
    if (at > from && at < to) turn(lead > 0 ? b.id : a.id, at, false);
  }
  return found;
}
