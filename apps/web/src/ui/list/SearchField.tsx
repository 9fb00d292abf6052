import { useEffect, useEffectEvent, useState } from 'react';
import { useLocation, useNavigation } from 'react-router';

/** So long nothing is typed before the list follows, ms: a letter is painted at once, and no list is asked for that nobody waits for. */
const restMs = 180;

/** What a list is sought through for: it stands in the address, a moment after it was typed. */
export function SearchField({
  value,
  onSearch,
  ...field
}: {
  /** What the address says. */
  value: string | null;
  onSearch: (words: string | null) => void;
} & Pick<React.ComponentProps<'input'>, 'placeholder' | 'className' | 'aria-label'>) {
  const [typed, setTyped] = useState({ text: value ?? '', sent: value, seen: value });
  // a view that is opened or a filter that is taken away brings other words; what was sent from here is no news
  if (value !== typed.seen) setTyped(value === typed.sent ? { ...typed, seen: value } : { text: value ?? '', sent: value, seen: value });
  const { pathname } = useLocation();
  const next = useNavigation().location?.pathname;
  const search = useEffectEvent(() => {
    const words = typed.text.trim() || null;
    // whoever is on the way to another screen is not brought back to the list
    if (words === typed.sent || (next !== undefined && next !== pathname)) return;
    setTyped({ ...typed, sent: words });
    onSearch(words);
  });
  useEffect(() => {
    const timer = setTimeout(search, restMs);
    return () => clearTimeout(timer);
  }, [typed.text]);
  return <input {...field} value={typed.text} onChange={({ target }) => setTyped({ ...typed, text: target.value })} />;
}
