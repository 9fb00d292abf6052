import { bad, good, type Result } from '../../units/result.js';
import { readLine } from '../configFile/index.js';
import { countriesOf, countriesOfLayout, layoutsOf, offsetMinutes, sameZone } from './whereabouts.js';

/** What a device shows once it has started: one application and nothing else, the client over the whole screen, or a desktop of its own. */
export const firstBootModes = ['kiosk', 'client', 'desktop'] as const;
/** Where the password of whoever sets the device up comes from: asked for at the first start, made for each device, or its hash is given. */
export const passwordRules = ['ask', 'per device', 'hash'] as const;

/** The answers that a device would ask for at its first start. */
export interface FirstBoot {
  zone: string;
  /** BCP 47, or as POSIX writes it. */
  locale: string;
  keyboard: string;
  mode: (typeof firstBootModes)[number];
  password: (typeof passwordRules)[number];
  /** A hash as crypt(5) writes it, where the rule is `hash`. */
  hash?: string;
}

const keys = ['zone', 'locale', 'keyboard', 'mode', 'password', 'hash'] as const;
const isHash = (text: string): boolean => /^\$(?:y|gy|7|2[abxy]|6|5)\$[./A-Za-z0-9$=,-]{20,200}$/.test(text);

/** The file of answers as it stands beside an image, so that nobody types them. */
export const firstBootText = ({ zone, locale, keyboard, mode, password, hash }: FirstBoot): string =>
  `[first-boot]\nzone = ${zone}\nlocale = ${locale}\nkeyboard = ${keyboard}\nmode = ${mode}\npassword = ${password}\n${hash === undefined ? '' : `hash = ${hash}\n`}`;

/** Reads a file of answers; what is wrong is told with its line. */
export function readFirstBoot(text: string): Result<FirstBoot> {
  const found = new Map<string, { value: string; line: number }>();
  let section = '';
  for (const [i, raw] of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\n|\r/)
    .entries()) {
    const line = `line ${i + 1}`;
    const read = readLine(raw);
    if (read.is === 'wrong') return bad(line, read.problem, 'write a key, “=” and its value');
    if (read.is === 'section') {
      section = read.name;
      if (section !== 'first-boot') return bad(line, `begins the section [${section}]`, 'such a file has [first-boot] alone');
    }
    if (read.is !== 'value') continue;
    if (section === '') return bad(line, `“${read.key}” stands before any section`, 'begin with [first-boot]');
    if (!(keys as readonly string[]).includes(read.key)) return bad(line, `no answer is called “${read.key}”`, `use ${keys.join(', ')}`);
    if (found.has(read.key)) return bad(line, `“${read.key}” stands twice`, 'leave one of them out');
    found.set(read.key, { value: read.value, line: i + 1 });
  }
  const missing = keys.find((key) => key !== 'hash' && !found.get(key)?.value);
  if (missing) return bad('the file', `has no answer for “${missing}”`, `add ${missing} = …`);
  const at = (key: string) => found.get(key)?.value ?? '';
  const place = (key: string) => `line ${found.get(key)?.line}`;
  const mode = firstBootModes.find((each) => each === at('mode'));
  if (!mode) return bad(place('mode'), `“${at('mode')}” is no mode`, `use ${firstBootModes.join(', ')}`);
  const password = passwordRules.find((each) => each === at('password'));
  if (!password)
    // what stands there may be a password: it is not said again
    return bad(
      place('password'),
      'is no rule for a password',
      `use ${passwordRules.join(', ')}; a password itself never stands in such a file`,
    );
  const hash = found.get('hash')?.value;
  if (password === 'hash' && (hash === undefined || !isHash(hash)))
    return bad(
      hash === undefined ? 'the file' : place('hash'),
      'has no hash as crypt(5) writes it',
      'give one that begins with $y$, $6$ or the like',
    );
  return good({
    zone: at('zone'),
    locale: at('locale'),
    keyboard: at('keyboard'),
    mode,
    password,
    ...(hash === undefined ? {} : { hash }),
  });
}

/** Something about the answers that does not agree with the place, and what would. */
export interface FirstBootProblem {
  key: 'zone' | 'locale' | 'keyboard' | 'mode' | 'password';
  sure: boolean;
  text: string;
  right: string;
}

/** A locale taken apart; null where it is none. */
function localeOf(text: string): Intl.Locale | null {
  try {
    return new Intl.Locale(
      text
        .replace(/\.[A-Za-z0-9-]+$/, '')
        .replace(/@.*$/, '')
        .replaceAll('_', '-'),
    );
  } catch {
    return null;
  }
}

/**
 * Checks answers against the place where the device will stand: zone, country and keyboard have to agree, or its person's clock and keys are
 * wrong in the session.
 * @param atMs when, for how far the clock would be off
 */
export function checkFirstBoot(
  { zone, locale, keyboard, mode, password }: FirstBoot,
  place: { timeZone: string },
  device: { deviceClass: string },
  atMs: number,
): FirstBootProblem[] {
  const found: FirstBootProblem[] = [];
  const tell = (key: FirstBootProblem['key'], text: string, right: string, sure = true) => void found.push({ key, sure, text, right });
  const [own, there] = [offsetMinutes(zone, atMs), offsetMinutes(place.timeZone, atMs)];
  if (own === null) tell('zone', `“${zone}” is no time zone`, place.timeZone);
  else if (!sameZone(zone, place.timeZone)) {
    const off = own - (there ?? 0);
    const hours = `${Math.abs(off / 60)} h`;
    if (off !== 0)
      tell('zone', `the place is in ${place.timeZone}: its clock would be ${hours} ${off > 0 ? 'fast' : 'slow'}`, place.timeZone);
    else
      tell('zone', `the place is in ${place.timeZone}: the clocks agree now, and may not when one of them changes`, place.timeZone, false);
  }
  const countries = countriesOf(place.timeZone);
  const read = localeOf(locale);
  if (!read) tell('locale', `“${locale}” is no locale`, 'a language and a country, such as en-GB');
  else if (!read.region)
    tell('locale', `“${locale}” names no country: dates and paper would be guessed`, `${read.language}-${countries[0] ?? '…'}`);
  else if (countries.length > 0 && !countries.includes(read.region))
    tell(
      'locale',
      `${read.region} is another country than that of ${place.timeZone} (${countries.slice(0, 3).join(', ')})`,
      `${read.language}-${countries[0]}`,
      false,
    );
  const of = countriesOfLayout(keyboard);
  // the country that the locale names, else those of the zone
  const wanted = read?.region ? [read.region] : countries;
  const layouts = wanted.flatMap(layoutsOf);
  if (of === null) tell('keyboard', `“${keyboard}” is in no table of layouts`, layouts[0] ?? 'a layout such as gb', false);
  else if (wanted.length > 0 && !of.some((country) => wanted.includes(country)))
    tell(
      'keyboard',
      `the layout ${keyboard} is that of ${of.slice(0, 3).join(', ')}, not of ${wanted.slice(0, 3).join(', ')}`,
      layouts[0] ?? 'the one of the place',
      layouts.length > 0,
    );
  if ((device.deviceClass === 'kiosk') !== (mode === 'kiosk'))
    tell(
      'mode',
      device.deviceClass === 'kiosk' ? 'a kiosk shows one application alone' : `kiosk is no mode for a ${device.deviceClass}`,
      device.deviceClass === 'kiosk' ? 'kiosk' : 'client',
    );
  if (password === 'hash') tell('password', 'every device gets the same password', 'per device', false);
  return found;
}
