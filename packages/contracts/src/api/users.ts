import { z } from 'zod';
import { Role } from '../estate/words.js';
import { NewPassword } from './session.js';

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
    password: NewPassword,
  })
  .meta({ id: 'UserRequest' });

export const UserView = z.object({
  id: z.string(),
  email: z.string(),
  name: z.string(),
  role: Role,
  factor: z.boolean(),
  throughProvider: z.boolean(),
});
export const RoleRequest = z.strictObject({ role: Role }).meta({ id: 'RoleRequest' });
export type RoleRequest = z.infer<typeof RoleRequest>;
export type UserRequest = z.infer<typeof UserRequest>;
export type UserView = z.infer<typeof UserView>;
