import { readersLocale } from './times.js';

/** How figures are written: the reader's region decides what stands before tenths. */
interface Figures {
  /** A figure with so many digits behind the point; with `least` no more of them are written than it has. */
  fixed: (value: number, digits: number, least?: number) => string;
  /** A sentence of the core, its figures as this region writes them. Versions, addresses and names stay as they are. */
  regional: <T>(value: T) => T;
}

/** Figures before what they are counted in; only those are rewritten, since a version is written with points everywhere. */
const counted =
  /(?<![\w.,:/@-])(\d+)\.(\d+)(?=[ \u00a0\u202f]?(?:ms|s|h|kbit\/s|Mbit\/s|Gbit\/s|MHz|GHz|px|dBm|MB|GB|km|hours?|minutes?|seconds?|frames?|packets?|points?)(?!\w|\.\d)|[ \u00a0\u202f]?[%×]| (?:of|to) \d)/g;

/** The writing of a locale, such as en-DE. */
export function figuresOf(locale: string): Figures {
  const point = new Intl.NumberFormat(locale).formatToParts(1.5).find(({ type }) => type === 'decimal')?.value ?? '.';
  const formats = new Map<string, Intl.NumberFormat>();
  const format = (digits: number, least: number): Intl.NumberFormat => {
    const name = `${digits} ${least}`;
    let known = formats.get(name);
    if (!known) {
      const options = { minimumFractionDigits: least, maximumFractionDigits: digits, useGrouping: false } as const;
      formats.set(name, (known = new Intl.NumberFormat(locale, options)));
    }
    return known;
  };
  const inText = (text: string): string => text.replace(counted, `$1${point}$2`);
  const regional = <T>(value: T): T => {
    if (point === '.') return value;
    if (typeof value === 'string') return inText(value) as T;
    if (Array.isArray(value)) return value.map((each: unknown) => regional(each)) as T;
    if (value === null || typeof value !== 'object') return value;
    return Object.fromEntries(Object.entries(value).map(([key, inner]: [string, unknown]) => [key, regional(inner)])) as T;
  };
  return { fixed: (value, digits, least = digits) => format(digits, least).format(value), regional };
}

export const { fixed, regional } = figuresOf(readersLocale);

/** So many of something, with its word. @example soMany(1, 'group') // “1 group” */
export const soMany = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
