/**
 * Slips between two words: letters left out, put in, another letter, or two neighbours the wrong way round, each once; counted up to
 * a limit, above which it stops.
 * @param most the most that is counted; a result above it only says that there are more
 * @example slipsBetween('gulsey', 'gullsey', 2) === 1
 * @source optimal string alignment, G. Navarro, "A guided tour to approximate string matching", ACM Computing Surveys 33 (2001)
 */
export function slipsBetween(a: string, b: string, most = Infinity): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    let least = i;
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let slips = Math.min((row[j] as number) + 1, (next[j - 1] as number) + 1, (row[j - 1] as number) + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) slips = Math.min(slips, (before[j - 2] as number) + 1);
      next.push(slips);
      if (slips < least) least = slips;
    }
    if (least > most) return most + 1;
    [before, row] = [row, next];
  }
  return row[b.length] as number;
}
