import { faultOfAssumed } from '../assumed/index.js';
import { faultOfSetting } from '../settings/index.js';

/** What no schema can know of an object: a value of the settings' catalogue, a figure that is assumed; null where nothing is wrong. */
export function faultOfObject(kind: string, value: object): { field: string; problem: string; expected: string } | null {
  if (kind === 'organisation') return faultOfAssumed((value as { assumed?: Record<string, number> }).assumed ?? {});
  return faultOfSetting(kind, value);
}
