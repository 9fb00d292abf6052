import { z } from 'zod';
import { Role } from '../estate/words.js';

/** Somebody who may sign in. */
export const UserRequest = z
  .strictObject({
    email: z
      .string()
      .trim()
      .toLowerCase()
      .regex(/^[^\s@]+@[^\s@]+$/, 'must be an address such as name@example.org')
      .max(200),
    name: z.string().trim().min(1, 'must not be empty').max(120),
    role: Role,
    password: z.string().min(12, 'must be at least 12 characters').max(200),
  })
  .meta({ id: 'UserRequest' });

export const UserView = z.object({ id: z.string(), email: z.string(), name: z.string(), role: Role });
export type UserRequest = z.infer<typeof UserRequest>;
export type UserView = z.infer<typeof UserView>;
