import type { Moved } from '@underpass/contracts';

/** For whom something changed, in a sentence; null where that is not known. */
export function forWhom(moved: Moved | null): string | null {
  if (!moved) return null;
  const { better, worse, come, gone, people } = moved;
  const [first, ...others] = (
    [
      [better, 'better'],
      [worse, 'worse'],
      [come, 'new'],
      [gone, 'no more'],
    ] as const
  ).filter(([n]) => n > 0);
  if (!first) return 'Nobody’s verdict became another.';
  const parts = [`${first[0]} crossing${first[0] === 1 ? '' : 's'} ${first[1]}`, ...others.map(([n, become]) => `${n} ${become}`)];
  return `For ${people} ${people === 1 ? 'person' : 'people'}: ${parts.join(', ')}.`;
}
