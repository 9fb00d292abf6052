import { z } from 'zod';
import './wording.js';

const Time = z.number().nullish();

/** The part of a HAR 1.2 file that is read: times, addresses and results. Everything else in it is left where it is. */
export const Har = z.object({
  log: z.object({
    entries: z
      .array(
        z.object({
          startedDateTime: z.iso.datetime({ offset: true, error: 'must be a time such as 2026-06-12T08:00:00.000Z' }),
          time: z.number(),
          request: z.object({ method: z.string().max(40), url: z.string() }),
          response: z.object({ status: z.number() }),
          timings: z.object({ dns: Time, connect: Time, ssl: Time }).default({}),
        }),
      )
      .min(1, 'must hold at least one request')
      .max(200_000),
  }),
});
export type Har = z.infer<typeof Har>;

/** Reads the text of a HAR file; a fault says where it is. */
export function parseHar(text: string): { har: Har } | { problem: string } {
  let content: unknown;
  try {
    content = JSON.parse(text);
  } catch (error) {
    const place = /position (\d+)/.exec((error as Error).message)?.[1];
    const line = place === undefined ? null : text.slice(0, Number(place)).split('\n').length;
    return { problem: `is not JSON${line === null ? '' : `: line ${line}`}. Record the sign-in again and save it as HAR` };
  }
  const result = Har.safeParse(content);
  if (result.success) return { har: result.data };
  const issue = result.error.issues[0];
  return { problem: `${issue?.path.map(String).join('.') || 'the file'}: ${issue?.message ?? ''}` };
}
