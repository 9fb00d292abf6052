/** A build may be counted in more digits than a number holds. */
type Field = number | bigint;
const parsed = new Map<string, readonly Field[]>();
/** The fields of a version, remembered: an estate has few versions and asks for them at every crossing. */
function fields(text: string): readonly Field[] {
  let known = parsed.get(text);
  if (!known) {
    if (parsed.size > 5000) parsed.clear();
    known = (text.toLowerCase().match(/\d+|[a-z]+/g) ?? []).map((field) => (/\d/.test(field) ? whole(field) : field.charCodeAt(0) / 1000));
    parsed.set(text, known);
  }
  return known;
}

const whole = (digits: string): Field => (digits.replace(/^0+/, '').length > 15 ? BigInt(digits) : Number(digits));

/**
 * Compares versions as their makers write them: numeric fields separated by . or _, leading zeros ignored, a trailing letter
 * after the number it follows; never as text (3.10 is above 3.9).
 * @returns −1, 0 or 1
 */
export function compareVersions(a: string, b: string): number {
  const left = fields(a);
  const right = fields(b);
  for (let i = 0; i < Math.max(left.length, right.length); i++) {
    const [x, y] = [left[i] ?? 0, right[i] ?? 0];
    if (x < y) return -1;
    if (x > y) return 1;
  }
  return 0;
}
