import { Secret, TOTP } from 'otpauth';
import { createHash, randomInt } from 'node:crypto';

/** Six digits every 30 seconds with SHA-1, which every authenticator takes [RFC 6238 1.2, 4; RFC 4226 5]. */
const periodS = 30;
const digits = 6;
/** Codes of the step before and after count too: clocks differ [RFC 6238 5.2]. */
const window = 1;

const of = (secret: string, label = '') =>
  new TOTP({ issuer: 'Underpass', label, algorithm: 'SHA1', digits, period: periodS, secret: Secret.fromBase32(secret) });

/** A new secret of 160 bits, as RFC 4226 4 (R6) recommends. */
export const newFactorSecret = (): string => new Secret({ size: 20 }).base32;
export const factorUri = (secret: string, email: string): string => of(secret, email).toString();

/**
 * The time step a code is right for, or null.
 * @param after step of the last code that was taken: the same one and earlier ones are not taken again [RFC 6238 5.2]
 */
export function factorStep(secret: string, code: string, atMs: number, after: number): number | null {
  const delta = of(secret).validate({ token: code, timestamp: atMs, window });
  if (delta === null) return null;
  const step = Math.floor(atMs / 1000 / periodS) + delta;
  return step > after ? step : null;
}

const letters = 'abcdefghijkmnpqrstuvwxyz23456789';
const spareCount = 10;
/** Ten codes of 50 bits to print, each good once. */
export const newSpareCodes = (): string[] =>
  Array.from({ length: spareCount }, () => {
    const text = Array.from({ length: 10 }, () => letters[randomInt(letters.length)]).join('');
    return `${text.slice(0, 5)}-${text.slice(5)}`;
  });
/** They are random, so that a plain hash keeps them. */
export const hashSpareCode = (code: string): string =>
  createHash('sha256').update(code.trim().toLowerCase().replace('-', '')).digest('hex');
