import type { BootStepName } from '../steps.js';

/** What is said of a cause; words in braces are of the device it is told of. */
export interface CauseWords {
  step: BootStepName;
  /** What is wrong, in a sentence. */
  says: string;
  /** What the screen of the device shows; common practice, no source: the words are those of our simulated endpoint. */
  shows: string;
  /** What mends it. */
  mend: string;
  /** The cause it is most easily taken for, and what to ask a person by telephone to tell the two apart. */
  alike: string;
  ask: string;
  here: string;
  there: string;
}

/** What the screen of a device shows where it stops. */
export const shown = {
  link: 'No network',
  address: 'No address',
  server: 'No settings server',
  silent: 'Settings server does not answer',
  files: 'Cannot read settings',
  firmware: 'Update not for this device',
  time: 'Certificate not valid',
  broker: 'No place to sign in',
  signIn: 'Connection not trusted',
} as const;

/** Of one cause: what it says, what mends it, and how it is told from the one that looks most like it. */
export type Row = readonly [says: string, mend: string, alike: string, ask: string, here: string, there: string];
/** Causes that break one step and show the same. */
export const of = <K extends string>(step: BootStepName, shows: string, rows: Record<K, Row>): Record<K, CauseWords> =>
  Object.fromEntries(
    Object.entries<Row>(rows).map(([code, [says, mend, alike, ask, here, there]]) => [
      code,
      { step, says, shows, mend, alike, ask, here, there },
    ]),
  ) as Record<K, CauseWords>;
