import type { ObjectKind } from '@underpass/contracts';

/** The kinds of estate object; core takes types from contracts only, so the list stands here too and the compiler checks it. */
const kinds: Record<ObjectKind, true> = {
  organisation: true,
  region: true,
  gateway: true,
  pool: true,
  host: true,
  resource: true,
  portal: true,
  publication: true,
  group: true,
  location: true,
  person: true,
  endpoint: true,
  session: true,
  signedIn: true,
  requirement: true,
  setting: true,
};
export const objectKindsInOrder = Object.keys(kinds) as ObjectKind[];
