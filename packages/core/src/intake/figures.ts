/** How figures are written in a column: what its points and commas mean. */
export interface FigureStyle {
  comma: 'decimals' | 'thousands' | 'unclear';
  /** Days before months, or after. */
  days: 'day first' | 'month first' | 'unclear';
}

const grouped = (mark: string) => new RegExp(`^[-+]?\\d{1,3}(\\${mark}\\d{3})+$`);
const byComma = grouped(',');

/**
 * How the figures and days of a column are written, by those of its cells that can be read in one way alone.
 * @param cells of the column
 */
export function styleOf(cells: Iterable<string>): FigureStyle {
  const votes = { decimals: 0, thousands: 0 };
  const days = { first: 0, second: 0 };
  for (const cell of cells) {
    const figure = /[-+]?\d[\d.,]*/.exec(cell.replace(/[\s'’]/g, ''))?.[0].replace(/[.,]$/, '') ?? '';
    const [comma, point] = [figure.lastIndexOf(','), figure.lastIndexOf('.')];
    if (comma >= 0 && point >= 0) votes[comma > point ? 'decimals' : 'thousands']++;
    else if (comma >= 0 && !byComma.test(figure)) votes.decimals++;
    else if (point >= 0 && !grouped('.').test(figure)) votes.thousands++;
    const day = /^(\d{1,2})\/(\d{1,2})\/\d{2,4}/.exec(cell.trim());
    if (day && Number(day[1]) > 12) days.first++;
    if (day && Number(day[2]) > 12) days.second++;
  }
  return {
    comma: votes.decimals > 0 && votes.thousands === 0 ? 'decimals' : votes.thousands > 0 && votes.decimals === 0 ? 'thousands' : 'unclear',
    days: days.first > 0 && days.second === 0 ? 'day first' : days.second > 0 && days.first === 0 ? 'month first' : 'unclear',
  };
}

/** What a text comes to, or why it does not. */
export type Tidied = { text: string } | { problem: string; wanted: string };

/**
 * A figure as it is written here: digits, and a point before decimals.
 * @param whole whether it can have no decimals, so that a mark before three digits parts thousands
 * @example readFigure('1.024,5', { comma: 'decimals', days: 'unclear' }, false) // { text: '1024.5' }
 */
export function readFigure(cell: string, style: FigureStyle, whole: boolean): Tidied {
  const text = cell.replace(/[\s'’]/g, '').replace(/^\u2212/, '-');
  if (!/^[-+]?(\d[\d.,]*|[.,]\d+)$/.test(text)) return { problem: `“${cell}” is not a number`, wanted: 'a number' };
  const [comma, point] = [text.lastIndexOf(','), text.lastIndexOf('.')];
  const plain = (thousands: string, decimals: string) => ({ text: text.replaceAll(thousands, '').replace(decimals, '.') });
  if (comma < 0 && point < 0) return { text };
  if (comma >= 0 && point >= 0) return comma > point ? plain('.', ',') : plain(',', '\0');
  const mark = comma >= 0 ? ',' : '.';
  const many = text.indexOf(mark) !== text.lastIndexOf(mark);
  if (many || (whole && grouped(mark).test(text)))
    return grouped(mark).test(text) ? plain(mark, '\0') : { problem: `“${cell}” is not a number`, wanted: 'a number' };
  if (mark === '.') return style.comma === 'decimals' && grouped('.').test(text) ? plain('.', '\0') : { text };
  if (byComma.test(text) && style.comma !== 'decimals')
    return style.comma === 'thousands'
      ? plain(',', '\0')
      : {
          problem: `“${cell}” may be ${text.replace(',', '')} or ${text.replace(',', '.')}`,
          wanted: `${text.replace(',', '')}, or ${text.replace(',', '.')}`,
        };
  return plain('.', ',');
}

const two = (part: string): string => part.padStart(2, '0');
const isDay = (y: string, m: string, d: string): boolean => {
  const date = new Date(Date.UTC(Number(y), Number(m) - 1, Number(d)));
  return date.getUTCMonth() === Number(m) - 1 && date.getUTCDate() === Number(d);
};

/**
 * A day as it is written here: year, month, day [ISO 8601-1 5.2.2].
 * @example readDay('31.12.2026', style) // { text: '2026-12-31' }
 */
export function readDay(cell: string, style: FigureStyle): Tidied {
  const wanted = 'a day such as 2026-12-31';
  const text = cell.trim().replace(/[T ]\d{1,2}:\d{2}.*$/, '');
  const full = (year: string) => (year.length === 2 ? `20${year}` : year);
  const made = (year: string, month: string, day: string): Tidied =>
    isDay(full(year), month, day)
      ? { text: `${full(year)}-${two(month)}-${two(day)}` }
      : { problem: `“${cell}” is no day there is`, wanted };
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(text);
  if (iso) return made(iso[1] as string, iso[2] as string, iso[3] as string);
  const points = /^(\d{1,2})\.(\d{1,2})\.(\d{4}|\d{2})$/.exec(text);
  if (points) return made(points[3] as string, points[2] as string, points[1] as string);
  const slashes = /^(\d{1,2})\/(\d{1,2})\/(\d{4}|\d{2})$/.exec(text);
  if (!slashes) return { problem: `“${cell}” is not a day`, wanted };
  const [, a, b, year] = slashes as unknown as [string, string, string, string];
  if (Number(a) > 12 || (style.days === 'day first' && Number(b) <= 12) || a === b) return made(year, b, a);
  if (Number(b) > 12 || style.days === 'month first') return made(year, a, b);
  return {
    problem: `“${cell}” may be ${full(year)}-${two(a)}-${two(b)} or ${full(year)}-${two(b)}-${two(a)}`,
    wanted: `one of the two, written ${wanted.slice(2)}`,
  };
}

/** What a unit is in units of another, by what it measures; letters as they are commonly written. */
const units: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  MB: { kb: 1 / 1024, kib: 1 / 1024, mb: 1, mib: 1, m: 1, gb: 1024, gib: 1024, g: 1024, tb: 1024 * 1024, tib: 1024 * 1024 },
  Mbps: {
    'kbit/s': 0.001,
    kbps: 0.001,
    kbit: 0.001,
    'mbit/s': 1,
    mbps: 1,
    mbit: 1,
    'mb/s': 1,
    m: 1,
    'gbit/s': 1000,
    gbps: 1000,
    gbit: 1000,
    g: 1000,
  },
  Ms: { ms: 1, s: 1000, sec: 1000 },
  S: { s: 1, sec: 1, ms: 0.001, min: 60 },
  Dbm: { dbm: 1 },
  Hz: { hz: 1, khz: 1000 },
  Px: { px: 1 },
  Mm: { mm: 1, cm: 10 },
};

/** The unit that a field's name ends with. */
const unitOf = (field: string): string | undefined => Object.keys(units).find((unit) => field.endsWith(unit));

/**
 * A figure of a field in the field's own unit: the unit stands behind the figure, or in the name of the column.
 * Memory is counted in powers of two, as systems show it [IEC 80000-13 names them otherwise; common practice].
 * @example readAmount('8 GB', 'memoryMB', 'RAM', style, true) // { text: '8192' }
 */
export function readAmount(cell: string, field: string, head: string, style: FigureStyle, whole: boolean): Tidied {
  const match = /^([-+\u2212]?[\d.,\s'’]+?)\s*(%|[a-zµ][a-z/]*)?$/i.exec(cell.trim());
  if (!match) return { problem: `“${cell}” is not a number`, wanted: 'a number' };
  const own = unitOf(field);
  const said = match[2]?.toLowerCase();
  const headed = own && /[([]\s*([a-z/]+)\s*[)\]]|\b(mb|gb|kb|kbit\/s|mbit\/s|gbit\/s|kbps|mbps|gbps|ms)\b\s*$/i.exec(head);
  const written = match[2] ?? (headed ? (headed[1] ?? headed[2]) : undefined);
  const unit = written?.toLowerCase();
  // eight times as much, or written carelessly: nobody can tell
  if (own === 'Mbps' && written !== undefined && /^[kKmMG]B(\/s|ps)$/.test(written))
    return { problem: `“${written}” may be bits or bytes`, wanted: `${written[0]}bit/s` };
  const isShare = /share$/i.test(field);
  if (unit === '%' && !isShare) return { problem: `“${cell}” is a share of a hundred`, wanted: own ? `a number, in ${own}` : 'a number' };
  const factor = unit === '%' ? 0.01 : unit === undefined || !own ? 1 : units[own]?.[unit];
  if (factor === undefined || (said !== undefined && said !== '%' && !own))
    return said === undefined
      ? plainFigure(match[1] as string, style, whole, 1)
      : {
          problem: `“${said}” is not a unit of it`,
          wanted: own
            ? `a number, in ${Object.keys(units[own] ?? {})
                .slice(0, 6)
                .join(', ')}`
            : 'a number',
        };
  return plainFigure(match[1] as string, style, whole && factor === 1, factor, whole);
}

function plainFigure(text: string, style: FigureStyle, thousands: boolean, factor: number, whole = thousands): Tidied {
  const read = readFigure(text.trim(), style, thousands);
  if ('problem' in read || factor === 1) return read;
  const value = Number((Number(read.text) * factor).toPrecision(12));
  return { text: String(whole ? Math.round(value) : value) };
}
