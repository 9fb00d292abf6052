/** A value as it stands behind “=”: quoted where anything in it would be read otherwise. */
export const written = (text: string): string =>
  /^$|^\s|\s$|^"|[;#\\]/.test(text) ? `"${text.replace(/[\\"]/g, (sign) => `\\${sign}`)}"` : text;
