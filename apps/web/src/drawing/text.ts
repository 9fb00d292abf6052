/** Shortens a text for a width in px, at about 6.3 px a letter of the drawing's size. The full text stands in the bay's panel. */
export function clipText(text: string, width: number): string {
  const letters = Math.floor(width / 6.3);
  return text.length <= letters ? text : `${text.slice(0, Math.max(1, letters - 1)).trimEnd()}…`;
}
