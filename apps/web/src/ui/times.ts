import { formatDistanceToNowStrict } from 'date-fns';

/** English in the reader's region: days and months as they are written there, the clock in 24 hours everywhere. */
export function localeOf(languages: readonly string[]): string {
  for (const language of languages) {
    try {
      const { region } = new Intl.Locale(language);
      if (region) return `en-${region}`;
    } catch {
      // a browser may name what is no language
    }
  }
  return 'en-GB';
}
/** That of who reads here. */
export const readersLocale = localeOf(typeof navigator === 'undefined' ? [] : navigator.languages);
const format = (options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(readersLocale, { hourCycle: 'h23', ...options });
const clockOf = { hour: '2-digit', minute: '2-digit' } as const;
const moments = format({ day: 'numeric', month: 'long', ...clockOf });
const shortMoments = format({ day: 'numeric', month: 'short', ...clockOf });
const weekdays = format({ weekday: 'long', day: 'numeric', month: 'long', ...clockOf });
const days = format({ day: 'numeric', month: 'long', year: 'numeric' });
const clocks = format(clockOf);

/** “25 November at 08:11”, in the reader's own time zone. */
export const moment = (at: string | number): string => moments.format(new Date(at));

/** “25 Nov, 08:11”. */
export const shortMoment = (at: string | number): string => shortMoments.format(new Date(at));

/** “Wednesday 25 November at 08:11”. */
export const weekdayMoment = (at: string | number): string => weekdays.format(new Date(at));

/** “30 June 2027”. */
export const day = (at: string | number): string => days.format(new Date(at));

/** “08:11”. */
export const clock = (at: string | number): string => clocks.format(new Date(at));

/** “3 days ago”. */
export const ago = (at: string | number): string => formatDistanceToNowStrict(new Date(at), { addSuffix: true });

/** What the clock shows in a zone at a moment, where it is another than the reader's: “04:11”; null where it is the same. */
export function clockThere(at: string | number, zone: string): string | null {
  const there = format({ ...clockOf, timeZone: zone }).format(new Date(at));
  return there === clock(at) ? null : there;
}

/** A moment at a place: “25 November at 08:11 (09:11 there)”, where the clock there shows another hour than the reader's. */
export function momentAt(at: string | number, zone: string): string {
  const there = clockThere(at, zone);
  return `${moment(at)}${there ? ` (${there} there)` : ''}`;
}

/** A moment by the clock of a place: “25 November at 09:11”. */
export const momentIn = (at: string | number, zone: string): string =>
  format({ day: 'numeric', month: 'long', ...clockOf, timeZone: zone }).format(new Date(at));
/** The hour on the clock of a place: “09:00”. */
export const localHour = (at: string | number, zone: string): string => format({ ...clockOf, timeZone: zone }).format(new Date(at));

const figures = new Intl.NumberFormat('en-GB');
/** A whole number with thin spaces between its thousands, as the figures in the sentences are written. */
export const inThousands = (n: number): string => figures.format(n).replaceAll(',', '\u202f');
