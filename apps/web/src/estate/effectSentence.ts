import type { Impact } from '@underpass/core';

const crossings = (n: number): string => `${n} crossing${n === 1 ? '' : 's'}`;

/** What a change would do to the crossings it touches, in one sentence. */
export function effectSentence({ crossings: all, changedVerdict, better, worse, come, gone }: Impact): string {
  const parts = [
    better ? `${better} get${better === 1 ? 's' : ''} better` : '',
    worse ? `${worse} get${worse === 1 ? 's' : ''} worse` : '',
    come ? `${come} come${come === 1 ? 's' : ''} to be` : '',
    gone ? `${gone} would be no more` : '',
  ].filter(Boolean);
  if (parts.length === 0) return all === 0 ? 'It touches no crossing.' : `It touches ${crossings(all)}; no verdict becomes another.`;
  return `It touches ${crossings(all)}${changedVerdict ? `, ${changedVerdict} with another verdict` : ''}: ${parts.join(', ')}.`;
}
