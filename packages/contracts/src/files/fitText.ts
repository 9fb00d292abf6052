/**
 * Why a text cannot be kept, or null. PostgreSQL keeps no null character, and half of a surrogate pair is no character at all
 * [PostgreSQL manual, 8.3 and 8.14; Unicode 3.9].
 */
export function faultOfText(text: string): string | null {
  // in a regular expression of code points, halves of pairs are the category Cs
  const at = text.search(/\p{Cs}|\0/u);
  if (at < 0) return null;
  const where = text.includes('\n') ? ` in line ${text.slice(0, at).split('\n').length}` : '';
  return `holds ${text.charCodeAt(at) === 0 ? 'the null character' : 'half of a character'}${where}, which cannot be kept`;
}

/** The first text anywhere in a JSON value that cannot be kept. */
export function faultOfTexts(value: unknown, path: readonly string[] = []): { path: readonly string[]; message: string } | null {
  if (typeof value === 'string') {
    const message = faultOfText(value);
    return message ? { path, message } : null;
  }
  if (value === null || typeof value !== 'object' || ArrayBuffer.isView(value)) return null;
  for (const [key, inner] of Object.entries(value)) {
    const fault = faultOfTexts(key, [...path, 'a name']) ?? faultOfTexts(inner, [...path, key]);
    if (fault) return fault;
  }
  return null;
}
