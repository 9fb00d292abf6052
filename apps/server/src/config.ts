import { z } from 'zod';

const Environment = z.object({
  PORT: z.coerce.number().int().min(1).max(65_535).default(4600),
  DATABASE_URL: z.string().min(1),
  /** Public address people reach the server at; links of field checks are made from it. */
  PUBLIC_URL: z.url().optional(),
  /** Simulated lines in between: "port>udpFirst" pairs, comma separated. Only for demo and tests. */
  SIMULATED_LINES: z.string().default(''),
  CHECK_UDP_FIRST: z.coerce.number().int().min(1024).max(65_000).default(46_100),
  CHECKS_AT_ONCE: z.coerce.number().int().min(1).max(50).default(4),
  /** Where the stand-in portal is reached, and the key it comes with. */
  PORTAL_URL: z.url().optional(),
  PORTAL_KEY: z.string().min(24, 'must be at least 24 characters').optional(),
  DEMO_FOLDER: z.string().optional(),
  /** "address:password" of the first administrator, for a database nobody may sign in to yet. */
  FIRST_ADMIN: z
    .string()
    .regex(/^[^\s@:]+@[^\s@:]+:.{12,}$/, 'must be address:password with at least 12 characters of password')
    .optional(),
  LOG_LEVEL: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
});

export interface SimulatedLine {
  port: number;
  udpFirst: number;
}
export interface Config {
  port: number;
  databaseUrl: string;
  publicUrl: string | null;
  lines: SimulatedLine[];
  checkUdpFirst: number;
  checksAtOnce: number;
  logLevel: string;
  portalUrl: string | null;
  portalKey: string | null;
  /** Estate folder to load into an empty database; none for a database of one's own. */
  demoFolder: string | null;
  firstAdmin: { email: string; password: string } | null;
}
export const CONFIG = 'underpass config';

/** Reads the environment; a wrong value is told with its name. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const result = Environment.safeParse(environment);
  if (!result.success) throw new Error(result.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; '));
  const e = result.data;
  const lines = e.SIMULATED_LINES.split(',')
    .filter(Boolean)
    .map((pair) => {
      const [port, udpFirst] = pair.split('>').map(Number);
      if (!port || !udpFirst) throw new Error(`SIMULATED_LINES: “${pair}” is not port>udpFirst`);
      return { port, udpFirst };
    });
  return {
    port: e.PORT,
    databaseUrl: e.DATABASE_URL,
    publicUrl: e.PUBLIC_URL ?? null,
    lines,
    checkUdpFirst: e.CHECK_UDP_FIRST,
    checksAtOnce: e.CHECKS_AT_ONCE,
    logLevel: e.LOG_LEVEL,
    portalUrl: e.PORTAL_URL?.replace(/\/$/, '') ?? null,
    portalKey: e.PORTAL_KEY ?? null,
    demoFolder: e.DEMO_FOLDER || null,
    firstAdmin: e.FIRST_ADMIN
      ? { email: (e.FIRST_ADMIN.split(':')[0] as string).toLowerCase(), password: e.FIRST_ADMIN.slice(e.FIRST_ADMIN.indexOf(':') + 1) }
      : null,
  };
}
