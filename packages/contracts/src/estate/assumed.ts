import { z } from 'zod';
import { boundedRecord } from '../bounds.js';

/** What an estate assumes otherwise than is shipped: which figures there are, and what each may be, core tells. */
export const AssumedValues = boundedRecord(
  z
    .string()
    .max(60)
    .regex(/^[a-z]+(\/[A-Za-z0-9-]+)+$/, 'must be a key such as people/activeShare'),
  z.number().min(-1_000_000).max(1_000_000),
  200,
);
