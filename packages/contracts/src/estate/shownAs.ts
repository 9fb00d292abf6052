import { z } from 'zod';

/** Texts that a form shows otherwise than in one line: text of many lines, whose blanks and ends count, or a secret. */
export const shownAs = z.registry<{ as: 'lines' | 'secret' }>();

/** Words for yes and no that a table takes beside those two, where people say it otherwise. */
export const saidAs = z.registry<{ yes: readonly string[]; no: readonly string[] }>();
