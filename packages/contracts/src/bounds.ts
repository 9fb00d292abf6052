import { z } from 'zod';

/** Deepest nesting and most values of anything that comes in as JSON; files are texts within it and count as one value. */
export const deepestJson = 32;
export const mostJsonValues = 20_000;

/**
 * Why a JSON text is not worth parsing, or null. One pass over the characters that builds nothing, so that a text made to fill the
 * memory is refused before it can.
 * @param text JSON, or what claims to be
 */
export function faultOfJsonShape(text: string, deepest = deepestJson, most = mostJsonValues): string | null {
  let depth = 0;
  let values = 1;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 0x22) {
      // to the end of the string: a quote with an even number of backslashes before it
      for (;;) {
        i = text.indexOf('"', i + 1);
        if (i < 0) return null; // the parser says so with its own words
        let slashes = 0;
        while (text.charCodeAt(i - 1 - slashes) === 0x5c) slashes++;
        if (slashes % 2 === 0) break;
      }
    } else if (code === 0x5b || code === 0x7b) {
      if (++depth > deepest) return `is nested more than ${deepest} deep`;
    } else if (code === 0x5d || code === 0x7d) depth--;
    else if (code === 0x2c && ++values > most) return `holds more than ${most} values`;
  }
  return null;
}

/** Deepest, longest and most of a free JSON value inside a request. */
const deepestValue = 8;
const mostInside = 2000;
const longestInside = 2000;

function faultOfValue(value: unknown): string | null {
  let count = 0;
  const walk = (inner: unknown, depth: number): string | null => {
    if (++count > mostInside) return `must hold at most ${mostInside} values`;
    if (typeof inner === 'string') return inner.length > longestInside ? `must have texts of at most ${longestInside} characters` : null;
    if (typeof inner === 'number') return Number.isFinite(inner) ? null : 'must hold finite numbers';
    if (inner === null || typeof inner === 'boolean') return null;
    if (typeof inner !== 'object') return 'must be plain JSON';
    if (depth >= deepestValue) return `must be nested at most ${deepestValue} deep`;
    for (const [key, each] of Object.entries(inner)) {
      const fault = key.length > 80 ? 'must have names of at most 80 characters' : walk(each, depth + 1);
      if (fault) return fault;
    }
    return null;
  };
  return walk(value, 0);
}

/** A JSON value of any form, within bounds of depth, length and number. */
export const BoundedJson = z
  .unknown()
  .superRefine((value, context) => {
    const fault = value === undefined ? 'is missing' : faultOfValue(value);
    if (fault) context.addIssue({ code: 'custom', message: fault });
  })
  .meta({ bounded: true });

/** A record of at most so many entries. */
export const boundedRecord = <V extends z.ZodType>(key: z.ZodString, value: V, most: number) =>
  z
    .record(key, value)
    .refine((record) => Object.keys(record).length <= most, `must have at most ${most} entries`)
    .meta({ bounded: true });
