import { useRef, type KeyboardEvent, type RefObject } from 'react';

/** The rows from one place to another, both of them too. */
export const between = (ids: readonly string[], a: number, b: number): string[] => ids.slice(Math.min(a, b), Math.max(a, b) + 1);

/**
 * The keys of a list: up and down, Home and End go through its rows; Space chooses one, with Shift the arrows choose all between;
 * Ctrl+A chooses all that are listed, Esc lets go.
 */
export function useListKeys({
  ids,
  frame,
  scrollTo,
  chosen,
  onChosen,
}: {
  ids: readonly string[];
  frame: RefObject<HTMLDivElement | null>;
  scrollTo: (index: number) => void;
  chosen: ReadonlySet<string> | undefined;
  onChosen: ((chosen: ReadonlySet<string>) => void) | undefined;
}) {
  // where a range begins, and what was chosen before it
  const anchor = useRef<{ at: number; before: ReadonlySet<string> } | null>(null);
  const go = (index: number, what: string) => {
    scrollTo(index);
    // the row is drawn once the list has scrolled there
    const focus = (left: number) => {
      const target = frame.current?.querySelector<HTMLElement>(`[data-index="${index}"] ${what}`);
      if (target) target.focus();
      else if (left > 0) requestAnimationFrame(() => focus(left - 1));
    };
    focus(20);
  };
  const toggle = (index: number) => {
    const id = ids[index];
    if (id === undefined || !onChosen) return;
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    anchor.current = { at: index, before: next };
    onChosen(next);
  };
  const extend = (index: number, from: number) => {
    anchor.current ??= { at: from, before: chosen ?? new Set() };
    onChosen?.(new Set([...anchor.current.before, ...between(ids, anchor.current.at, index)]));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    const row = target.closest<HTMLElement>('[data-index]');
    if (!row || (event.altKey && event.key !== 'Escape')) return;
    const index = Number(row.dataset.index);
    const what = target.hasAttribute('data-tick') ? '[data-tick]' : '[data-row]';
    const places: Record<string, number> = { ArrowDown: index + 1, ArrowUp: index - 1, Home: 0, End: ids.length - 1 };
    if (event.key in places && !event.ctrlKey && !event.metaKey) {
      const next = Math.min(ids.length - 1, Math.max(0, places[event.key] as number));
      if (event.shiftKey && onChosen) extend(next, index);
      else anchor.current = null;
      go(next, what);
    } else if (event.key === ' ' && target.hasAttribute('data-row') && onChosen) toggle(index);
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey) && onChosen) onChosen(new Set(ids));
    else if (event.key === 'Escape' && chosen?.size) onChosen?.(new Set());
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return {
    onKeyDown,
    /** A tick that is clicked or pressed; with Shift all from the last one. */
    onTick: (index: number, isRange: boolean) => {
      if (isRange && anchor.current) extend(index, index);
      else toggle(index);
    },
  };
}
