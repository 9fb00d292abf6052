/** What became of the texts of a form while somebody else saved another version. */
export interface Merge {
  /** What the form goes on with: one's own edits, and the other's where one had none. */
  texts: Record<string, string>;
  /** Fields both changed, to different things: one of the two has to be chosen. */
  clashes: { field: string; mine: string; theirs: string }[];
  /** Fields that follow the other's version. */
  followed: { field: string; text: string }[];
}

/** Puts one's own edits and somebody else's together, field by field. @param began the texts the form began with */
export function mergeTexts(
  fields: readonly string[],
  began: Record<string, string>,
  mine: Record<string, string>,
  theirs: Record<string, string>,
): Merge {
  const merge: Merge = { texts: { ...mine }, clashes: [], followed: [] };
  for (const field of fields) {
    const [was, own, other] = [began[field] ?? '', mine[field] ?? '', theirs[field] ?? ''];
    if (own === other || other === was) continue;
    if (own === was) {
      merge.texts[field] = other;
      merge.followed.push({ field, text: other });
    } else merge.clashes.push({ field, mine: own, theirs: other });
  }
  return merge;
}
