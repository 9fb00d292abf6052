/** What stands before a secret that is kept sealed; the same text is always sealed to the same. */
const sealedMark = 'sealed:';

/**
 * Whether two secrets are the same, both as they are or both sealed.
 * @returns null where one is sealed and the other is not
 */
export function sealedAlike(one: string, other: string): boolean | 'in other letters' | null {
  const sealed = [one, other].filter((text) => text.startsWith(sealedMark)).length;
  if (sealed === 1) return null;
  if (one === other) return true;
  const bare = (text: string) => text.trim().toLowerCase();
  return sealed === 0 && bare(one) === bare(other) ? 'in other letters' : false;
}
