import type { CookieOptions, Response } from 'express';
import type { Config } from '../config.js';

/** Where pages come encrypted, the names bind cookies to this host and to encryption [RFC 6265bis 4.1.3]. */
export const cookieNames = ({ secure }: Pick<Config, 'secure'>) =>
  secure
    ? { session: '__Host-underpass', device: '__Host-underpass-device', way: '__Host-underpass-way' }
    : { session: 'underpass_session', device: 'underpass_device', way: 'underpass_way' };

export function cookieOf(header: string | undefined, name: string): string | undefined {
  return header
    ?.split(';')
    .map((part) => part.trim())
    .find((part) => part.startsWith(`${name}=`))
    ?.slice(name.length + 1);
}

const hours = 3_600_000;
const base = (secure: boolean): CookieOptions => ({ httpOnly: true, sameSite: 'strict', secure, path: '/' });

export function setSignedIn(response: Response, config: Config, token: string, known: string): void {
  const names = cookieNames(config);
  response.cookie(names.session, token, { ...base(config.secure), maxAge: 12 * hours });
  response.cookie(names.device, known, { ...base(config.secure), maxAge: 180 * 24 * hours });
}
export function clearSignedIn(response: Response, config: Config): void {
  response.clearCookie(cookieNames(config).session, base(config.secure));
}
/** The way to a provider and back crosses sites, so this one is sent from there too. */
export function setWay(response: Response, config: Config, sealed: string): void {
  response.cookie(cookieNames(config).way, sealed, { ...base(config.secure), sameSite: 'lax', maxAge: hours / 6 });
}
export function clearWay(response: Response, config: Config): void {
  response.clearCookie(cookieNames(config).way, { ...base(config.secure), sameSite: 'lax' });
}
