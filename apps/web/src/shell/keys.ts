import { useEffect } from 'react';

const off = 'underpass.keys.off';
export const keysAreOff = (): boolean => {
  try {
    return localStorage.getItem(off) === '1';
  } catch {
    return false;
  }
};
export function switchKeys(on: boolean): void {
  try {
    if (on) localStorage.removeItem(off);
    else localStorage.setItem(off, '1');
  } catch {
    // storage may be closed to us; shortcuts then stay on
  }
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

let pending: { key: string; at: number } | null = null;

/** Shortcuts of a screen: "g b" for two keys in turn. Never while typing, never with a modifier, off if switched off. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || typing(event.target) || keysAreOff()) return;
      if (document.querySelector('[role=dialog]') && event.key !== '?') return;
      const two = pending && Date.now() - pending.at < 1200 ? `${pending.key} ${event.key}` : '';
      const run = (two && keys[two]) || keys[event.key];
      if (run) {
        event.preventDefault();
        run(event);
        pending = null;
      } else if (event.key === 'g') pending = { key: 'g', at: Date.now() };
    };
    addEventListener('keydown', listen);
    return () => removeEventListener('keydown', listen);
  }, [keys]);
}

/** j and k walk through the rows marked with data-row. */
export function walkRows(step: 1 | -1): void {
  const rows = [...document.querySelectorAll<HTMLElement>('[data-row]')];
  if (rows.length === 0) return;
  const at = rows.findIndex((row) => row === document.activeElement || row.contains(document.activeElement));
  const next = rows[at < 0 ? (step > 0 ? 0 : rows.length - 1) : Math.min(rows.length - 1, Math.max(0, at + step))];
  next?.focus();
  next?.scrollIntoView({ block: 'nearest' });
}
