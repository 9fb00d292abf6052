/** The hour in which most of what is not Clear is at its worst, by the clocks of the places. */
export interface WorstHour {
  /** 0 to 23, local time of each place. */
  hour: number;
  /** Crossings that are short, or may be, and are at their worst then. */
  crossings: number;
}

/** Crossings by the hour they are judged by; what comes out otherwise is taken out again. */
export class HourTally {
  private readonly hours = Array.from({ length: 24 }, () => 0);

  add(hour: number, times: 1 | -1): void {
    this.hours[hour] = (this.hours[hour] ?? 0) + times;
  }

  /** The hour of most; of equals the earliest, null where there is nothing. */
  worst(): WorstHour | null {
    const crossings = Math.max(...this.hours);
    return crossings > 0 ? { hour: this.hours.indexOf(crossings), crossings } : null;
  }
}
