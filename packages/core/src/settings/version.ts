const parsed = new Map<string, readonly number[]>();
/** The fields of a version, remembered: an estate has few versions and asks for them at every crossing. */
function fields(text: string): readonly number[] {
  let known = parsed.get(text);
  if (!known) {
    if (parsed.size > 5000) parsed.clear();
    known = (text.toLowerCase().match(/\d+|[a-z]+/g) ?? []).map((field) => (/\d/.test(field) ? Number(field) : field.charCodeAt(0) / 1000));
    parsed.set(text, known);
  }
  return known;
}

/**
 * Compares versions as their makers write them: numeric fields separated by . or _, leading zeros ignored, a trailing letter
 * after the number it follows; never as text (3.10 is above 3.9).
 * @returns negative, 0 or positive
 */
export function compareVersions(a: string, b: string): number {
  const left = fields(a);
  const right = fields(b);
  for (let i = 0; i < Math.max(left.length, right.length); i++) {
    const difference = (left[i] ?? 0) - (right[i] ?? 0);
    if (difference !== 0) return difference;
  }
  return 0;
}
