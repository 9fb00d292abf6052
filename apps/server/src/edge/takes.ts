import { SetMetadata } from '@nestjs/common';

export const kB = 1024;
export const MB = 1024 * 1024;
/** What a route takes where it does not say otherwise: no file is meant. */
export const usualBody = 64 * kB;

export interface Taken {
  limit: number;
  /** Bytes are handed on as they came, for a worker to read; octets are no JSON at all; JSON is read here. */
  form: 'json' | 'bytes' | 'octets' | 'form' | 'scim';
}
export const TAKES = 'takes a body';
/** The largest body a route reads. */
export const Takes = (limit: number, form: Taken['form'] = 'json') => SetMetadata(TAKES, { limit, form } satisfies Taken);

export interface AtOnceLimit {
  what: string;
  person: number;
  all: number;
}
export const AT_ONCE = 'how many at once';
/** How many requests of a kind may run at the same time, for one person and for all together. */
export const AtOnce = (what: string, person: number, all: number) => SetMetadata(AT_ONCE, { what, person, all } satisfies AtOnceLimit);
