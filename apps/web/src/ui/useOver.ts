import { useTyped } from './useTyped.js';

/** What is typed over something that is kept as a whole and that others may write too. */
interface Typed<T> {
  value: T;
  /** As it stood when it was begun, and the version it stood at. */
  base: T;
  seen: number;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Typing over something that is kept as a whole: what is not typed over follows what stands; where somebody else keeps it meanwhile what
 * is typed stays, and theirs is not written over before it is said to go on.
 * @param name under which what is typed is kept in the browser's tab
 * @param stands what is kept, and its version
 */
export function useOver<T>(name: string, stands: { value: T; version: number }) {
  const [kept, setTyped] = useTyped<Typed<T> | null>(name, null);
  // a tab that was open before this page was another kept something else under this name
  const typed = kept !== null && typeof kept === 'object' && 'base' in kept ? kept : null;
  const isBehind = typed !== null && !same(stands.value, typed.base);
  return {
    value: typed === null ? stands.value : typed.value,
    isTyped: typed !== null,
    isBehind,
    /** The version to send with it: what else is written beside it meanwhile is no matter. */
    seen: isBehind ? typed.seen : stands.version,
    change: (value: T) => setTyped({ base: stands.value, seen: stands.version, ...typed, value }),
    /** Goes on with what is typed, over what stands now. */
    goOn: () => typed && setTyped({ value: typed.value, base: stands.value, seen: stands.version }),
    /** Leaves what is typed. */
    leave: () => setTyped(null),
  };
}
