/** What the cells of a column look like; of each there is one test below. */
export type Look =
  | 'empty'
  | 'yes or no'
  | 'whole number'
  | 'number'
  | 'share'
  | 'date'
  | 'time'
  | 'address'
  | 'address range'
  | 'hardware address'
  | 'e-mail address'
  | 'host name'
  | 'resolution'
  | 'amount'
  | 'version'
  | 'serial number'
  | 'distinguished name'
  | 'word'
  | 'name'
  | 'text';

const octet = '(?:25[0-5]|2[0-4]\\d|1\\d\\d|[1-9]?\\d)';
const plain = new RegExp(`^${octet}(\\.${octet}){3}$`);
const range = new RegExp(`^${octet}(\\.${octet}){3}/\\d{1,2}$`);
const yesNo = /^(yes|no|y|n|true|false|ja|nein|wahr|falsch|oui|non|s[ií]|nee|tak|nie|x|✓|✗)$/i;

function isIpv6(text: string | undefined): boolean {
  if (!text || !/^[0-9a-f:]{2,39}$/i.test(text)) return false;
  const parts = text.split(':');
  return (
    !text.includes(':::') &&
    text.split('::').length <= 2 &&
    parts.every((part) => part.length <= 4) &&
    (text.includes('::') ? parts.length <= 9 : parts.length === 8)
  );
}
/** At least two parts, each an attribute and its value. */
const isDn = (text: string): boolean => {
  const parts = text.split(',');
  return parts.length > 1 && parts.every((part) => /^\s*([a-z][a-z0-9-]{0,60}|\d+(\.\d+)*)\s?=/i.test(part));
};

/** In this order: what fits an earlier one is not looked at for a later one. */
const tests: readonly (readonly [Look, (cell: string) => boolean])[] = [
  ['yes or no', (cell) => yesNo.test(cell)],
  ['whole number', (cell) => /^[-+]?\d{1,15}$/.test(cell)],
  ['address range', (cell) => range.test(cell) || isIpv6(/^([0-9a-f:]{2,39})\/\d{1,3}$/i.exec(cell)?.[1])],
  ['address', (cell) => plain.test(cell) || isIpv6(cell)],
  ['hardware address', (cell) => /^[0-9a-f]{2}([:-][0-9a-f]{2}){5}$|^[0-9a-f]{4}(\.[0-9a-f]{4}){2}$/i.test(cell)],
  [
    'date',
    (cell) =>
      /^(\d{4}-\d{1,2}-\d{1,2}|\d{1,2}\.\d{1,2}\.(\d{4}|\d{2})|\d{1,2}\/\d{1,2}\/(\d{4}|\d{2})|\d{4}\/\d{1,2}\/\d{1,2})([T ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?)?$/.test(
        cell,
      ),
  ],
  ['time', (cell) => /^([01]?\d|2[0-3]):[0-5]\d(:[0-5]\d)?$/.test(cell)],
  ['number', (cell) => /^[-+]?(\d+[.,]\d+|\d{1,3}([.\s']\d{3})+(,\d+)?|\d{1,3}(,\d{3})+(\.\d+)?)$/.test(cell)],
  ['share', (cell) => /^\d+([.,]\d+)?\s?%$/.test(cell)],
  ['resolution', (cell) => /^(\d\s?[x×]\s?)?\d{3,5}\s?[x×*]\s?\d{3,5}(\s?@\s?\d+([.,]\d+)?(\s?hz)?)?$/i.test(cell)],
  ['amount', (cell) => /^[-+]?\d+([.,]\d+)?\s?(b|kb|mb|gb|tb|kib|mib|gib|[kmg]bit\/?s|[kmg]bps|[kmg]hz|hz|dbm|ms|s)$/i.test(cell)],
  ['version', (cell) => /^v?\d+([._]\d+){1,5}[a-z]?$/i.test(cell)],
  ['e-mail address', (cell) => /^[^\s@,;]{1,64}@[^\s@,;]{1,253}\.[a-z]{2,}$/i.test(cell)],
  ['distinguished name', isDn],
  ['host name', (cell) => /^(?=.*[a-z])[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?){2,}$/i.test(cell)],
  ['serial number', (cell) => /^[A-Z0-9][A-Z0-9-]{5,29}$/.test(cell) && /[A-Z]/.test(cell) && cell.replace(/\D/g, '').length >= 3],
];

/** What has a form is short; a long text is not searched through. */
const longest = 400;
const lookOf = (cell: string): Look | null => (cell.length > longest ? null : (tests.find(([, fits]) => fits(cell))?.[0] ?? null));

/** Whether a cell is data by its form: a name of a column has none of them. */
export const looksTyped = (cell: string): boolean => {
  const look = lookOf(cell.trim());
  return look !== null && look !== 'serial number' && look !== 'host name' && !(look === 'yes or no' && cell.trim().length === 1);
};

/** Cells that are looked at in a column. */
const mostLooked = 500;
/** Share of the filled cells that has to look alike; the others are told when they are read. */
const alike = 0.8;

/**
 * What the cells of a column look like.
 * @param cells of the column, in their order; empty ones say nothing
 * @example looksLike(['1920x1080', '2560 x 1440']) === 'resolution'
 * @source addresses: RFC 4632 3.1, RFC 5952; names: RFC 1123 2.1, RFC 4514; amounts and serial numbers: common practice, no source
 */
export function looksLike(cells: readonly string[]): Look {
  const filled = cells
    .map((cell) => cell.trim())
    .filter(Boolean)
    .slice(0, mostLooked);
  if (filled.length === 0) return 'empty';
  const counts = new Map<Look, number>();
  for (const cell of filled) {
    const look = lookOf(cell);
    if (look) counts.set(look, (counts.get(look) ?? 0) + 1);
  }
  // a whole number is a number, a number of two parts a version
  const whole = counts.get('whole number') ?? 0;
  const both = (look: Look) => (counts.has(look) ? (counts.get(look) as number) + whole : 0);
  for (const look of ['number', 'share', 'amount'] as const) if (both(look) > whole) counts.set(look, both(look));
  // 4.12 among 4.12.1 is one too
  if (counts.has('version')) counts.set('version', (counts.get('version') ?? 0) + Math.max(whole, counts.get('number') ?? 0));
  const [look, count] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? ['text', 0];
  if (count >= filled.length * alike) return look as Look;
  const different = new Set(filled.map((cell) => cell.toLowerCase())).size;
  if (filled.length > 2 && different <= Math.max(1, Math.min(20, filled.length / 3))) return 'word';
  return filled.filter((cell) => cell.length <= 60 && !/[;\n]/.test(cell) && /\p{L}/u.test(cell)).length >= filled.length * alike
    ? 'name'
    : 'text';
}
