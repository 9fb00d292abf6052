import { useEffect, useState, type Dispatch, type SetStateAction } from 'react';
import { useSession } from '../api/session.js';
import { keepTyped, typedBefore } from './typed.js';
import { useKeptSoon } from './useKeptSoon.js';

/** A state that is typed and not saved: kept in the browser's tab a moment later, and there again after a reload. Null keeps nothing. */
export function useTyped<T>(name: string, first: T): [T, Dispatch<SetStateAction<T>>] {
  const key = `${useSession().data?.name ?? ''}.${name}`;
  const [value, setValue] = useState<T>(() => typedBefore<T>(key) ?? first);
  const isFirst = JSON.stringify(value) === JSON.stringify(first);
  const { soon, drop } = useKeptSoon(() => keepTyped(key, isFirst ? null : value));
  useEffect(() => soon(), [soon, key, value, isFirst]);
  const set: Dispatch<SetStateAction<T>> = (next) => {
    setValue(next);
    if (typeof next === 'function' || JSON.stringify(next) !== JSON.stringify(first)) return;
    // what is left or sent is gone at once: the page may go with it, before a moment is over
    drop();
    keepTyped(key, null);
  };
  return [value, set];
}
