import { useSyncExternalStore } from 'react';

/** A value outside of React that screens follow. */
function signal<T>(first: T) {
  let value = first;
  const followers = new Set<() => void>();
  return {
    get: () => value,
    set: (next: T) => {
      if (next === value) return;
      value = next;
      for (const follow of followers) follow();
    },
    follow: (follow: () => void) => {
      followers.add(follow);
      return () => followers.delete(follow);
    },
  };
}
const use = <T>(each: ReturnType<typeof signal<T>>): T => useSyncExternalStore(each.follow, each.get);

/** What the server says while it cannot work, such as without its database; null while it can. */
export const away = signal<string | null>(null);
export const useAway = () => use(away);

/** How far the evaluation of many crossings is; null while what is shown is right. */
export const evaluating = signal<{ done: number; total: number } | null>(null);
export const useEvaluating = () => use(evaluating);

/** Somebody asks for something weighty: the password is to be given again, and then it goes on. */
export const confirmation = signal<((given: boolean) => void) | null>(null);
export const useConfirmation = () => use(confirmation);

/** The session ended while something was open: what is on the page stays. */
export const sessionEnds = signal(0);
export const useSessionEnds = () => use(sessionEnds);

/** Waits until the password was given again, or not. */
export const askConfirmation = (): Promise<boolean> =>
  new Promise((resolve) => {
    // of several at the same moment one answer counts for all
    const earlier = confirmation.get();
    confirmation.set((given) => {
      confirmation.set(null);
      earlier?.(given);
      resolve(given);
    });
  });
