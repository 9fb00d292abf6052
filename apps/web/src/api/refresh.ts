import type { Moved } from '@underpass/contracts';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';

/** First words of the keys that are asked again when another version of the estate is evaluated; the shell names them. */
let following: ReadonlySet<unknown> = new Set();
let heard = 0;
const waiting = new Set<() => void>();
/** After a change its results are told as soon as they stand. Where nothing is told, as without a connection, it is asked after this long, ms. */
const toldWithinMs = 1500;

export const followResults = (keys: readonly string[]): void => {
  following = new Set(keys);
};

/** What was told lately: whose verdicts became others, by the version that did it. */
let told: { version: number; moved: Moved | null }[] = [];
/** So many are remembered, and one is waited for so long, ms. */
const mostTold = 20;
const waitsMs = 120_000;

/** Results of another version stand, and what follows them is being asked again. */
export function resultsTold(version: number, moved: Moved | null): void {
  heard++;
  told = [...told, { version, moved }].slice(-mostTold);
  for (const done of waiting) done();
}

/** Whose verdicts a change made others, once its results stand; null where that is never told. */
export function movedAt(version: number): Promise<Moved | null> {
  const find = () => told.find((each) => each.version >= version);
  const known = find();
  if (known) return Promise.resolve(known.moved);
  return new Promise((resolve) => {
    const done = (moved: Moved | null) => {
      clearTimeout(timer);
      waiting.delete(look);
      resolve(moved);
    };
    const look = () => {
      const found = find();
      if (found) done(found.moved);
    };
    const timer = setTimeout(() => done(null), waitsMs);
    waiting.add(look);
  });
}

/** Resolves when the results of a change stand, so that what was tried can go without the old ones showing; after a moment in any case. */
export const standing = (version: number): Promise<unknown> =>
  Promise.race([movedAt(version), new Promise((resolve) => setTimeout(resolve, toldWithinMs))]);

/** How many results were told so far. */
export const resultsSoFar = (): number => heard;

/**
 * What to do when something was written: what follows the results is asked again when they are told, not before as well; all
 * else at once.
 * @returns takes how many results had been told before it was written
 */
export function useRefresh(): (before: number) => void {
  const client = useQueryClient();
  return useCallback(
    (before: number) => {
      const follows = ({ queryKey }: { queryKey: readonly unknown[] }) => following.has(queryKey[0]);
      void client.invalidateQueries({ predicate: (query) => !follows(query) });
      if (heard > before) return;
      const told = () => {
        clearTimeout(timer);
        waiting.delete(told);
      };
      const timer = setTimeout(() => {
        waiting.delete(told);
        void client.invalidateQueries({ predicate: follows });
      }, toldWithinMs);
      waiting.add(told);
    },
    [client],
  );
}
