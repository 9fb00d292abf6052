import type { RouteObject } from 'react-router';

/** What the server tells as it happens. `results`: another version of the estate is evaluated. */
export type LiveEvent = 'results' | 'ended' | 'check' | 'job' | 'sighting' | 'boot';

export interface StageAction {
  name: string;
  to: string;
  /** The file of that screen that is asked for there. */
  exports?: string;
  engineer?: true;
  admin?: true;
}

/**
 * A stage of work, registered in one place: its screens, its entry in the menu, its shortcuts and what of it follows events.
 * `shell/stages.ts` lists them; router, header, shortcuts and live queries come from there.
 */
export interface Stage {
  /** Its entry in the header; a stage without one is reached from elsewhere. */
  menu?: { name: string; to: string; key: string };
  /** Screens, each its own piece of script, fetched when it is first opened. */
  routes: RouteObject[];
  /** Keys of its screens, for the list of shortcuts: the screens act on them by `useKeys`. */
  shortcuts?: readonly (readonly [keys: string, what: string])[];
  /** What its screens do, to be found by name; with who alone may do it. */
  actions?: readonly StageAction[];
  /** The first words of query keys that are asked again at an event. */
  live?: Partial<Record<LiveEvent, readonly string[]>>;
}
