/**
 * A distinguished name as it is compared: parts in small letters without the blanks around them, escapes undone.
 * @example sameName('CN=Ada Ames, OU=Yard') === sameName('cn=ada ames,ou=yard')
 * @source RFC 4514 2.4 and 3; comparing without case: RFC 4518, as most attributes that name something have it
 */
export const sameName = (dn: string): string =>
  partsOf(dn)
    .map(
      ({ attribute, value }) =>
        `${attribute}=${value
          .toLowerCase()
          .replace(/\s+/g, ' ')
          .replace(/[\\,]/g, (mark) => `\\${mark}`)}`,
    )
    .join(',');

/** A part of a name: its attribute in small letters, and its value without escapes. */
export interface NamePart {
  attribute: string;
  value: string;
}

/** Parts of a name from its own to the top. */
export function partsOf(dn: string): NamePart[] {
  return splitAt(dn, /[,;]/)
    .filter((part) => part.trim() !== '')
    .map((part) => {
      const at = part.indexOf('=');
      return { attribute: part.slice(0, Math.max(at, 0)).trim().toLowerCase(), value: unescaped(part.slice(at + 1).trim()) };
    });
}

/** The name that an entry stands beneath. */
export const parentOf = (dn: string): string => splitAt(dn, /[,;]/).slice(1).join(',').trim();

function splitAt(text: string, mark: RegExp): string[] {
  const parts: string[] = [];
  let part = '';
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const letter = text[i] as string;
    if (letter === '\\' && i + 1 < text.length) part += letter + (text[++i] as string);
    else if (letter === '"') {
      quoted = !quoted;
      part += letter;
    } else if (!quoted && mark.test(letter)) {
      parts.push(part);
      part = '';
    } else part += letter;
  }
  parts.push(part);
  return parts;
}

/** Escapes undone: a mark before a letter, or the two digits of a byte of UTF-8. */
function unescaped(value: string): string {
  const plain = value.startsWith('"') && value.endsWith('"') && value.length > 1 ? value.slice(1, -1) : value;
  return plain.replace(/(?:\\[0-9a-f]{2})+|\\(.)/gi, (all: string, letter?: string) => {
    if (letter !== undefined) return letter;
    try {
      return decodeURIComponent(all.replaceAll('\\', '%'));
    } catch {
      return all;
    }
  });
}
