/** Steps from switching on to the sign-in screen, in the order in which a device takes them. */
export const bootSteps = [
  'power on',
  'link up',
  'DHCP',
  'options found',
  'configuration server reached',
  'configuration files fetched and merged',
  'firmware compared',
  'write and restart',
  'certificate store',
  'time set',
  'broker address known',
  'sign-in screen',
] as const;
/** The name of a step. */
export type BootStepName = (typeof bootSteps)[number];

/** A step as it went. */
export interface BootStep {
  name: BootStepName;
  status: 'done' | 'broken' | 'notReached';
  /** When it began, ms from switching on; null where it was not reached. */
  atMs: number | null;
  durationMs: number;
  detail: string;
}

/** Something that was sent, received, or worked out on the device. */
export interface BootMessage {
  atMs: number;
  way: 'sent' | 'received' | 'here';
  text: string;
  /** Where it comes from: a scope, a file and its line. */
  place: string | null;
}
