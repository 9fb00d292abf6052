import { createHash, randomBytes } from 'node:crypto';

/** An unguessable token of 192 bits, safe in an address. */
export const newToken = (): string => randomBytes(24).toString('base64url');
/** Tokens are kept as their SHA-256 only: they have full entropy, so no slow hash is needed. */
export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
