import { z } from 'zod';

/** Files that have people in them. */
export const peopleExports = ['export', 'list export', 'crossings export', 'people export'] as const;

/** Work that takes longer than a request may: it goes on whatever happens to who asked for it, and can be called off. */
export const JobView = z
  .object({
    id: z.string(),
    kind: z.enum(['import', 'impact', 'consequence', 'log export', 'list', 'directory', ...peopleExports]),
    /** What it is about, in words. */
    name: z.string(),
    by: z.string(),
    at: z.string(),
    state: z.enum(['waiting', 'running', 'done', 'failed', 'cancelled']),
    step: z.string(),
    done: z.number(),
    total: z.number(),
    /** Why it failed. */
    message: z.string().nullable(),
    /** What it came to, once it is done. */
    result: z.unknown(),
  })
  .meta({ id: 'JobView' });
/** Answered where the work is too long for a request: ask for the job until it is done. */
export const JobStarted = z.object({ job: JobView }).meta({ id: 'JobStarted' });

export type JobView = z.infer<typeof JobView>;
export type JobStarted = z.infer<typeof JobStarted>;
