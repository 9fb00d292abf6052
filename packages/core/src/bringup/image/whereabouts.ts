import { zonesByCountry } from './zones.js';

const canonical = (zone: string): string | null => {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone;
  } catch {
    return null;
  }
};

let byZone: Map<string, string[]> | null = null;
/**
 * Countries in which a zone is in use; none for a zone that is no country’s, as UTC.
 * @returns codes of ISO 3166-1, two letters
 */
export function countriesOf(zone: string): readonly string[] {
  if (!byZone) {
    byZone = new Map();
    for (const row of zonesByCountry.split('|')) {
      const [country = '', ...zones] = row.split(' ');
      for (const each of zones) byZone.set(each, [...(byZone.get(each) ?? []), country]);
    }
  }
  const known = byZone.get(zone);
  if (known) return known;
  // an older or newer name of one that is in the table
  const own = canonical(zone);
  const other = own === null ? undefined : [...byZone.keys()].find((each) => canonical(each) === own);
  return byZone.get(other ?? '') ?? [];
}

/** Whether two names are of the same zone. */
export const sameZone = (a: string, b: string): boolean => canonical(a) !== null && canonical(a) === canonical(b);

/** How far a zone is ahead of UTC at an instant, minutes; null for a name that is no zone. */
export function offsetMinutes(zone: string, atMs: number): number | null {
  if (canonical(zone) === null) return null;
  const parts = new Intl.DateTimeFormat('en-GB', { timeZone: zone, timeZoneName: 'longOffset' }).formatToParts(atMs);
  const text = parts.find(({ type }) => type === 'timeZoneName')?.value ?? '';
  const [, sign, hours, minutes] = /^GMT(?:([+-])(\d{2}):(\d{2}))?/.exec(text) ?? [];
  return sign === undefined ? 0 : (sign === '-' ? -1 : 1) * (Number(hours) * 60 + Number(minutes));
}

/** Keyboard layouts of a country of the same letters [X Keyboard Extension configuration database, base rules]. */
const ownLayouts = new Set(
  (
    'af al at au az ba bd be bg br bt bw by ca cd ch cm cn cz de dk dz ee es et fi fo fr gb ge gh gn gr hr hu id ie il in iq ir is it jp ke kg kh kr ' +
    'kz la lk lt lv ma md me mk ml mm mn mt mv my ng nl no np ph pk pl pt ro rs ru se si sk sn sy tg th tj tm tr tw tz ua us uz vn za'
  ).split(' '),
);
/** Those of several countries, or of one with other letters [the same]. */
const otherLayouts: Readonly<Record<string, readonly string[]>> = {
  am: ['AM'],
  jv: ['ID'],
  mao: ['NZ'],
  ara: 'AE BH DZ EG EH JO KW LB LY MA MR OM PS QA SA SD SY TN YE'.split(' '),
  latam: 'AR BO CL CO CR CU DO EC GT HN HT MX NI PA PE PR PY SV US UY VE'.split(' '),
};

/** Countries whose people write with a layout; null where the layout is in no table. */
export const countriesOfLayout = (layout: string): readonly string[] | null =>
  otherLayouts[layout] ?? (ownLayouts.has(layout) ? [layout.toUpperCase()] : null);

/** Layouts of a country; none where no table has one. */
export const layoutsOf = (country: string): string[] => [
  ...(ownLayouts.has(country.toLowerCase()) ? [country.toLowerCase()] : []),
  ...Object.entries(otherLayouts).flatMap(([layout, countries]) => (countries.includes(country) ? [layout] : [])),
];
