import { z } from 'zod';
import { Role } from '../estate/words.js';

const Password = z.string().min(1).max(200);
/** Six digits of the second factor, or a spare code. */
const Code = z
  .string()
  .trim()
  .max(20)
  .regex(/^(\d{6}|[a-z0-9]{5}-?[a-z0-9]{5})$/i, 'must be the six digits, or a spare code such as a1b2c-d3e4f');

export const SignIn = z
  .strictObject({ email: z.string().trim().toLowerCase().min(3).max(200), password: Password, code: Code.optional() })
  .meta({ id: 'SignIn' });

/** Who is signed in, and what they have to do first. */
export const Session = z
  .object({
    name: z.string(),
    email: z.string(),
    role: Role,
    organisation: z.string(),
    version: z.number(),
    /** The role asks for a second factor and there is none yet. */
    mustSetUpFactor: z.boolean(),
    /** Signs in through the organisation's provider, so that there is no password here. */
    throughProvider: z.boolean(),
  })
  .meta({ id: 'Session' });
/** What a sign-in page may know before anybody signs in. */
export const SignInOptions = z.object({ provider: z.string().nullable(), demo: z.boolean() }).meta({ id: 'SignInOptions' });

/** The password, and the code where there is a second factor, once more before something weighty. */
export const ConfirmRequest = z.strictObject({ password: Password, code: Code.optional() }).meta({ id: 'ConfirmRequest' });

export const longestPassword = 200;
export const shortestPassword = 12;
export const NewPassword = z
  .string()
  .min(shortestPassword, `must be at least ${shortestPassword} characters`)
  .max(longestPassword, `must be at most ${longestPassword} characters`);
export const PasswordRequest = z
  .strictObject({ password: Password, code: Code.optional(), next: NewPassword })
  .meta({ id: 'PasswordRequest' });
/** The same as a form holds it: an empty code is none. */
export const PasswordForm = z
  .object({ password: z.string(), code: z.string(), next: z.string() })
  .transform(({ code, ...others }) => ({ ...others, ...(code.trim() === '' ? {} : { code: code.trim() }) }))
  .pipe(PasswordRequest);

export const OwnSession = z
  .object({
    id: z.string(),
    device: z.string(),
    address: z.string(),
    createdAt: z.string(),
    usedAt: z.string(),
    current: z.boolean(),
  })
  .meta({ id: 'OwnSession' });
export const OwnAccount = z
  .object({ factor: z.boolean(), spareCodes: z.number(), factorNeeded: z.boolean(), sessions: z.array(OwnSession) })
  .meta({ id: 'OwnAccount' });

/** A second factor being set up: its secret as text and as a code to scan; it counts once a first code was right. */
export const FactorOffer = z.object({ secret: z.string(), uri: z.string(), qr: z.string() }).meta({ id: 'FactorOffer' });
export const FactorRequest = z
  .strictObject({
    secret: z
      .string()
      .regex(/^[A-Z2-7]{16,64}$/)
      .max(64),
    code: z
      .string()
      .trim()
      .regex(/^\d{6}$/, 'must be six digits')
      .max(6),
  })
  .meta({ id: 'FactorRequest' });
export const SpareCodes = z.object({ codes: z.array(z.string()) }).meta({ id: 'SpareCodes' });

/** A whole number within a range; whatever is wrong with it, the range is what would be right. */
function whole(min: number, max: number, unit: string) {
  const said = `must be ${min} to ${max} ${unit}`;
  return z.number({ error: said }).int(said).min(min, said).max(max, said);
}

/** What an administrator chooses about sign-ins and about how long things are kept. */
export const DoorRules = z
  .strictObject({
    idleMinutes: whole(5, 720, 'minutes'),
    factorFor: z.array(Role).max(3).describe('Roles that need a second factor'),
    keepMeasurementsYears: whole(1, 20, 'years'),
    keepReportsDays: whole(7, 3650, 'days'),
    keepLogDays: whole(30, 3650, 'days'),
    keepLeftDays: whole(0, 3650, 'days').describe('Guests past their end, and names in the history of people who were removed'),
  })
  .meta({ id: 'DoorRules' });

/** Rules that take the place of those somebody saw. */
export const DoorRulesRequest = DoorRules.extend({ was: DoorRules.optional().describe('The rules they were made from') }).meta({
  id: 'DoorRulesRequest',
});

/** The rules as a form holds them, the figures as they are typed. */
export const DoorRulesForm = z
  .object({
    idleMinutes: z.string(),
    factorFor: z.array(Role),
    keepMeasurementsYears: z.string(),
    keepReportsDays: z.string(),
    keepLogDays: z.string(),
    keepLeftDays: z.string(),
  })
  .transform(({ factorFor, ...typed }) => ({
    factorFor,
    ...(Object.fromEntries(
      Object.entries(typed).map(([key, text]) => [key, /^\d{1,6}$/.test(text.trim()) ? Number(text) : Number.NaN]),
    ) as Record<keyof typeof typed, number>),
  }))
  .pipe(DoorRules);

/** As it is until an administrator chooses. */
export const usualDoorRules: z.infer<typeof DoorRules> = {
  idleMinutes: 30,
  factorFor: [],
  keepMeasurementsYears: 3,
  keepReportsDays: 180,
  keepLogDays: 400,
  keepLeftDays: 90,
};

export const SecurityEvent = z
  .object({ id: z.string(), at: z.string(), kind: z.string(), who: z.string(), address: z.string(), about: z.string() })
  .meta({ id: 'SecurityEvent' });
export const SecurityLogQuery = z.object({
  before: z.iso.datetime().max(40).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});
export const SecurityExport = z.strictObject({ format: z.enum(['json', 'syslog']).default('json') });

export type SignIn = z.infer<typeof SignIn>;
export type Session = z.infer<typeof Session>;
export type SignInOptions = z.infer<typeof SignInOptions>;
export type ConfirmRequest = z.infer<typeof ConfirmRequest>;
export type PasswordRequest = z.infer<typeof PasswordRequest>;
export type OwnSession = z.infer<typeof OwnSession>;
export type OwnAccount = z.infer<typeof OwnAccount>;
export type FactorOffer = z.infer<typeof FactorOffer>;
export type FactorRequest = z.infer<typeof FactorRequest>;
export type SpareCodes = z.infer<typeof SpareCodes>;
export type DoorRules = z.infer<typeof DoorRules>;
export type SecurityEvent = z.infer<typeof SecurityEvent>;
export type SecurityLogQuery = z.infer<typeof SecurityLogQuery>;
export type SecurityExport = z.infer<typeof SecurityExport>;
