/** A pattern that parts one text into fields: texts between names in braces. */
export interface Pattern {
  parts: readonly ({ text: string } | { field: string })[];
}

/** Reads a pattern such as {location}-{name}; a name stands in braces, all else is as it is in the list. */
export function readPattern(text: string): Pattern {
  const parts: ({ text: string } | { field: string })[] = [];
  for (const piece of text.split(/(\{[^{}]*\})/)) {
    if (piece === '') continue;
    const field = /^\{([^{}]+)\}$/.exec(piece)?.[1];
    parts.push(field === undefined ? { text: piece } : { field: field.trim() });
  }
  return { parts };
}

/** The names of fields in a pattern, in their order. */
export const fieldsOfPattern = ({ parts }: Pattern): string[] => parts.flatMap((part) => ('field' in part ? [part.field] : []));

/**
 * The fields of a text by a pattern: each takes what stands before the next text of the pattern, the last all that is left.
 * It looks at each letter once, so that no text takes long.
 * @returns null where the text is not made like that
 * @example partBy(readPattern('{location}-{name}'), 'WEX-PC 7') // { location: 'WEX', name: 'PC 7' }
 */
export function partBy({ parts }: Pattern, text: string): Record<string, string> | null {
  const found: Record<string, string> = {};
  let at = 0;
  for (const [i, part] of parts.entries()) {
    if ('text' in part) {
      if (!text.startsWith(part.text, at)) return null;
      at += part.text.length;
      continue;
    }
    const next = parts[i + 1];
    // two names without anything between them cannot be told apart: the first takes it all
    const end = next && 'text' in next ? text.indexOf(next.text, at) : text.length;
    if (end < 0) return null;
    found[part.field] = text.slice(at, end).trim();
    at = end;
  }
  return at === text.length ? found : null;
}
