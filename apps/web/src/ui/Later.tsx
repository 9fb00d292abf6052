import { startTransition, useEffect, useState } from 'react';

/** What takes long to draw comes a moment after its screen, so that the screen answers at once; its place is kept. */
export function Later({ children, height }: { children: React.ReactNode; height: string }) {
  const [now, setNow] = useState(false);
  useEffect(() => {
    // after the screen is painted, and given up where somebody does something meanwhile
    const frame = requestAnimationFrame(() => startTransition(() => setNow(true)));
    return () => cancelAnimationFrame(frame);
  }, []);
  return now ? children : <div aria-hidden className={height} />;
}
