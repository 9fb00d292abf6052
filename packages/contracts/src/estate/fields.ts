import { z } from 'zod';

/** Readable key of an estate object: unique within its kind. */
export const Key = z
  .string()
  .regex(
    /^[A-Za-z0-9][A-Za-z0-9._-]{0,63}$/,
    'must be 1 to 64 letters, digits, dots, dashes or underscores, starting with a letter or digit',
  );
export const Name = z.string().trim().min(1, 'must not be empty').max(120, 'must be at most 120 characters');
export const Rate = z.number().positive('must be above 0').max(400_000, 'must be at most 400000 Mbit/s');
export const Version = z
  .string()
  .max(40, 'must be at most 40 characters')
  .regex(/^\d+([._]\d+)*[a-z]?$/, 'must be numbers with dots or underscores, such as 4.12.1');
/** Times that something happened here: no earlier than there was anything to record, and never of a calendar nobody means. */
const earliest = '2000-01-01';
const latest = '2200-01-01';
const inCalendar = (text: string): boolean => text >= earliest && text < latest;
export const Instant = z.iso
  .datetime({ error: 'must be a UTC time such as 2026-06-12T08:00:00Z' })
  .max(40, 'must be at most 40 characters')
  .refine(inCalendar, 'must be a time from the year 2000 to 2199');
/** A name that can be looked up, or an IPv4 address [RFC 1123 2.1, RFC 1035 2.3.4]; no path, no port, no sign-in. */
export const HostName = z
  .string()
  .max(253, 'must be at most 253 characters')
  .regex(
    /^(?!-)[A-Za-z0-9-]{1,63}(?<!-)(\.(?!-)[A-Za-z0-9-]{1,63}(?<!-))*$/,
    'must be a host name such as portal.example.org, without address parts before or after it',
  );
export const Day = z.iso.date({ error: 'must be a date such as 2026-06-12' });
export const Latitude = z.number().min(-90).max(90);
export const Longitude = z.number().min(-180).max(180);
/** Fields that are taken to be so and that nobody knows; a verdict that hangs on one is Unknown. */
export const Assumed = z
  .array(z.string().regex(/^[a-zA-Z]{1,40}$/, 'must be the name of a field'))
  .max(20)
  .optional()
  .describe('Fields that are taken to be so until somebody says it; what hangs on them is Unknown');
export const Share = z.number().min(0, 'must be 0 to 1').max(1, 'must be 0 to 1');
/** A time of day, 24 hours. */
export const Clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'must be a time of day from 00:00 to 23:59, such as 08:30');

const zones = new Map<string, boolean>();
/** Whether the machine's table of time zones has a name [IANA time zone database]. */
export function isTimeZone(name: string): boolean {
  let known = zones.get(name);
  if (known === undefined) {
    try {
      known = new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
    } catch {
      known = false;
    }
    // what people type is bounded in length, but not in number
    if (zones.size < 1000) zones.set(name, known);
  }
  return known;
}
export const Zone = z.string().min(1).max(60).refine(isTimeZone, 'must be a time zone such as Europe/Oslo or UTC');
