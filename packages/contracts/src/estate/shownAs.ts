import { z } from 'zod';

/** Texts that a form shows otherwise than in one line: text of many lines, whose blanks and ends count, or a secret. */
export const shownAs = z.registry<{ as: 'lines' | 'secret' }>();
