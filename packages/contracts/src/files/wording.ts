import { z } from 'zod';

/** The kind of thing that was given, as it is told. */
const kindOf = (input: unknown): string =>
  input === null ? 'null' : Array.isArray(input) ? 'array' : Number.isNaN(input) ? 'NaN' : typeof input;

/**
 * What a schema says is wrong, in plain words: the one map for all of them. A schema's own words come before it, and what it says
 * nothing of is told as the validator does.
 */
export const plainWords: z.core.$ZodErrorMap = (issue) => {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? 'is missing' : `expected ${issue.expected}, received ${kindOf(issue.input)}`;
    case 'invalid_value':
      return issue.values.length === 1
        ? `expected ${JSON.stringify(issue.values[0])}`
        : `must be one of ${issue.values.map(String).join(', ')}`;
    case 'invalid_format':
      return issue.format === 'uuid' ? 'must be the id of something kept here' : undefined;
    case 'too_small':
      return `must ${sized(issue.origin, issue.minimum, issue.inclusive ? 'at least' : 'more than')}`;
    case 'too_big':
      return `must ${sized(issue.origin, issue.maximum, issue.inclusive ? 'at most' : 'less than')}`;
    default:
      return undefined;
  }
};

/** A bound in words: of a figure its value, of a text its characters, of a list its entries. */
function sized(origin: string, bound: number | bigint, side: string): string {
  if (origin === 'string') return `have ${side} ${bound} ${Number(bound) === 1 ? 'character' : 'characters'}`;
  return origin === 'array' || origin === 'set'
    ? `have ${side} ${bound} ${Number(bound) === 1 ? 'entry' : 'entries'}`
    : `be ${side} ${bound}`;
}

// An effect of loading this file: it is named under `sideEffects` of the package, or a bundle would leave it out.
z.config({ customError: plainWords });
