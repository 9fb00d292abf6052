import { z } from 'zod';
import { HostName, Instant, Key, Name } from './fields.js';

/** Where people sign in and find their list of resources. */
export const Portal = z
  .strictObject({
    id: Key,
    name: Name,
    gateway: Key,
    address: HostName.describe('Host name people open'),
  })
  .meta({ id: 'Portal' });

/** A set of resources offered together to groups. Attached to no portal, nobody sees it and nothing says so. */
export const Publication = z
  .strictObject({
    id: Key,
    name: Name,
    kind: z.enum(['desktop', 'apps']),
    pool: Key,
    resources: z
      .array(Key)
      .min(1, 'must name at least one resource')
      .max(5000)
      .describe('Resources of this pool, all desktops or all applications'),
    portals: z.array(Key).max(200).default([]).describe('Portals it is attached to; none, and nobody sees it'),
  })
  .meta({ id: 'Publication' });

/** A session of a person on a host, as the broker reports it. */
export const OpenSession = z
  .strictObject({
    id: Key,
    person: Key,
    resource: Key,
    host: Key.optional(),
    endpoint: Key.optional().describe('Endpoint it is or was last shown on'),
    state: z.enum(['active', 'left behind']),
    startedAt: Instant,
    usedAt: Instant.describe('When it was last used'),
  })
  .meta({ id: 'OpenSession' });

/** The last sign-in of a person: the groups it was made with stay in force until the next one. The id is the person's. */
export const SignedIn = z
  .strictObject({
    id: Key.describe('The person'),
    at: Instant,
    portal: Key.optional(),
    groups: z.array(Key).max(1000).default([]).describe('Groups the person was in at that sign-in'),
  })
  .meta({ id: 'SignedIn' });

export type Portal = z.infer<typeof Portal>;
export type Publication = z.infer<typeof Publication>;
export type OpenSession = z.infer<typeof OpenSession>;
export type SignedIn = z.infer<typeof SignedIn>;
