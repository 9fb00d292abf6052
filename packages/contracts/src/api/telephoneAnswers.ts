import { z } from 'zod';
import { Endpoint } from '../estate/endpoint.js';

/** What is known of a device before somebody at it is asked. */
export const TelephoneFacts = z
  .object({
    endpoint: z.string(),
    person: z.string().nullable(),
    location: z.object({ id: z.string(), name: z.string(), home: z.boolean(), wifi: z.boolean() }),
    platform: Endpoint.shape.platform,
    connection: z.enum(['wired', 'wifi']).nullable(),
    cause: z.string().nullable().describe('What the estate says that stops it, by its code'),
    words: z.record(z.string(), z.string()).describe('Words of the place, for what is told of a cause'),
  })
  .meta({ id: 'TelephoneFacts' });
export type TelephoneFacts = z.infer<typeof TelephoneFacts>;
