import type { Day } from '@underpass/core';

/** A strip of 24 hours: a stepped line through a figure of each hour, closed down to the ground where it is an area. */
export function steps(values: readonly number[], x: (hour: number) => number, y: (value: number) => number, ground?: number): string {
  const line = values.map((value, hour) => `${hour === 0 ? 'M' : 'L'}${x(hour)} ${y(value)}H${x(hour + 1)}`).join('');
  return ground === undefined ? line : `${line}V${ground}H${x(0)}Z`;
}

/**
 * The highest rate that is shown, Mbit/s: the line where it fits, else three times what is asked, and then the line is drawn with a
 * break. @returns also whether it is broken
 */
export function topOf({ hours, askedMbps }: Day): { mbps: number; broken: boolean } {
  const asked = Math.max(...hours.map(({ othersMbps }) => othersMbps)) + askedMbps;
  const line = Math.max(0, ...hours.map(({ lineMbps }) => lineMbps ?? 0));
  const most = Math.max(3 * asked, 1);
  return line > most ? { mbps: most * 1.15, broken: true } : { mbps: Math.max(line, asked, 0.1) * 1.1, broken: false };
}

/** The stretches of hours in which the place works, each from its first hour to the one it ends before. */
export function stretches(hours: Day['hours']): [number, number][] {
  const found: [number, number][] = [];
  for (const { hour, works } of hours) {
    const last = found.at(-1);
    if (!works) continue;
    if (last?.[1] === hour) last[1] = hour + 1;
    else found.push([hour, hour + 1]);
  }
  return found;
}
