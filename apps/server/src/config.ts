import { z } from 'zod';
import { Role } from '@underpass/contracts';
import { randomBytes } from 'node:crypto';
import { TrustedProxies } from './edge/address.js';
import { isLoopback } from './edge/plainAddress.js';
import { AllowedTargets } from './outward/targets.js';

const Environment = z.object({
  PORT: z.coerce.number().int().min(1).max(65_535).default(4600),
  /** Address to listen on. With the demo's published passwords only this machine may reach it, unless somebody says otherwise. */
  HOST: z.string().min(1).max(253).optional(),
  DATABASE_URL: z.string().min(1),
  /** Public address people reach the server at; links are made from it, and cookies are bound to it. */
  PUBLIC_URL: z.url().optional(),
  /** Proxies of one's own whose word about where requests come from is taken: addresses or ranges, comma separated. */
  TRUSTED_PROXY: z.string().max(1000).default(''),
  /** Seals second factors and signs what browsers keep; the same for all servers of a database. */
  SECRET_KEY: z.string().min(24, 'must be at least 24 characters').optional(),
  /** Simulated lines in between: "port>udpFirst" pairs, comma separated. Only for demo and tests. */
  SIMULATED_LINES: z.string().default(''),
  CHECK_UDP_FIRST: z.coerce.number().int().min(1024).max(65_000).default(46_100),
  CHECKS_AT_ONCE: z.coerce.number().int().min(1).max(50).default(4),
  /** Where the stand-in portal is reached, and the key it comes with. */
  PORTAL_URL: z.url().optional(),
  PORTAL_KEY: z.string().min(24, 'must be at least 24 characters').optional(),
  /** The key that devices come with when they tell how they started; without one nobody’s word is taken. */
  DEVICE_KEY: z.string().min(24, 'must be at least 24 characters').optional(),
  DEMO_FOLDER: z.string().optional(),
  /** Whether the demo comes with a month of history: for people, not for tests. */
  DEMO_PAST: z.enum(['yes', 'no']).default('no'),
  /** "address:password" of the first administrator, for a database nobody may sign in to yet. */
  FIRST_ADMIN: z
    .string()
    .regex(/^[^\s@:]+@[^\s@:]+:.{12,}$/, 'must be address:password with at least 12 characters of password')
    .optional(),
  /** Folder that is watched for lists other systems write; none, and none is. */
  INBOX: z.string().min(1).max(1000).optional(),
  /** Machines this server may connect to because somebody gave their address: names, `*.ending`, addresses or ranges, comma separated. */
  ALLOWED_TARGETS: z.string().max(4000).default(''),
  /** Whoever reads the metrics comes with this. */
  METRICS_TOKEN: z.string().min(24, 'must be at least 24 characters').optional(),
  OIDC_ISSUER: z.url().optional(),
  OIDC_CLIENT_ID: z.string().min(1).max(200).optional(),
  OIDC_CLIENT_SECRET: z.string().min(1).max(500).optional(),
  OIDC_NAME: z.string().min(1).max(60).default('your organisation'),
  OIDC_SCOPE: z.string().min(1).max(200).default('openid email profile'),
  OIDC_ROLE_CLAIM: z.string().min(1).max(100).default('roles'),
  /** Which value of the claim stands for which role: "access-team=engineer,helpdesk=reader". */
  OIDC_ROLES: z.string().max(2000).default(''),
  /** Whether this process takes up long work itself, or leaves it to worker processes. */
  JOBS: z.enum(['here', 'elsewhere']).default('here'),
  LOG_LEVEL: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
});

export interface SimulatedLine {
  port: number;
  udpFirst: number;
}
export interface ProviderConfig {
  issuer: string;
  clientId: string;
  clientSecret: string;
  name: string;
  scope: string;
  roleClaim: string;
  roles: Record<string, Role>;
}
export interface Config {
  port: number;
  host: string;
  databaseUrl: string;
  publicUrl: string | null;
  /** Whether pages come encrypted, so that cookies may be bound to that. */
  secure: boolean;
  trustedProxy: string;
  secretKey: string;
  lines: SimulatedLine[];
  checkUdpFirst: number;
  checksAtOnce: number;
  logLevel: string;
  jobs: 'here' | 'elsewhere';
  /** A server answers requests; a worker only takes up long work. */
  role: 'server' | 'worker';
  portalUrl: string | null;
  portalKey: string | null;
  deviceKey: string | null;
  /** Estate folder to load into an empty database; none for a database of one's own. */
  demoFolder: string | null;
  demoPast: boolean;
  firstAdmin: { email: string; password: string } | null;
  inbox: string | null;
  allowedTargets: string;
  metricsToken: string | null;
  provider: ProviderConfig | null;
}
export const CONFIG = 'underpass config';

/** Whether an address to listen on is reached from this machine only. */
export const isOwnMachine = (host: string): boolean => host === 'localhost' || isLoopback(host);

function linesOf(text: string): SimulatedLine[] {
  return text
    .split(',')
    .filter(Boolean)
    .map((pair) => {
      const [port, udpFirst] = pair.split('>').map(Number);
      if (!port || !udpFirst) throw new Error(`SIMULATED_LINES: “${pair}” is not port>udpFirst`);
      return { port, udpFirst };
    });
}

function rolesOf(text: string): Record<string, Role> {
  return Object.fromEntries(
    text
      .split(',')
      .filter(Boolean)
      .map((pair) => {
        const [value = '', role] = pair.split('=').map((part) => part.trim());
        const known = Role.safeParse(role);
        if (!value || !known.success) throw new Error(`OIDC_ROLES: “${pair}” is not VALUE=${Role.options.join('|')}`);
        return [value, known.data];
      }),
  );
}

/** Reads the environment; a wrong value is told with its name. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const result = Environment.safeParse(environment);
  if (!result.success) throw new Error(result.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; '));
  const e = result.data;
  const demoFolder = e.DEMO_FOLDER || null;
  const host = e.HOST ?? (demoFolder === null ? '::' : '127.0.0.1');
  const publicUrl = e.PUBLIC_URL ? new URL(e.PUBLIC_URL).origin : null;
  new TrustedProxies(e.TRUSTED_PROXY);
  new AllowedTargets(e.ALLOWED_TARGETS);
  const wanted = ['OIDC_ISSUER', 'OIDC_CLIENT_ID', 'OIDC_CLIENT_SECRET'] as const;
  const given = wanted.filter((name) => e[name] !== undefined);
  if (given.length > 0 && given.length < wanted.length)
    throw new Error(`${wanted.filter((name) => e[name] === undefined).join(', ')}: must be set with ${given.join(' and ')}`);
  return {
    port: e.PORT,
    host,
    databaseUrl: e.DATABASE_URL,
    publicUrl,
    secure: publicUrl?.startsWith('https:') ?? false,
    trustedProxy: e.TRUSTED_PROXY,
    secretKey: e.SECRET_KEY ?? randomBytes(32).toString('base64url'),
    lines: linesOf(e.SIMULATED_LINES),
    checkUdpFirst: e.CHECK_UDP_FIRST,
    checksAtOnce: e.CHECKS_AT_ONCE,
    logLevel: e.LOG_LEVEL,
    jobs: e.JOBS,
    role: 'server',
    portalUrl: e.PORTAL_URL?.replace(/\/$/, '') ?? null,
    portalKey: e.PORTAL_KEY ?? null,
    deviceKey: e.DEVICE_KEY ?? null,
    demoFolder,
    demoPast: e.DEMO_PAST === 'yes',
    inbox: e.INBOX ?? null,
    allowedTargets: e.ALLOWED_TARGETS,
    firstAdmin: e.FIRST_ADMIN
      ? { email: (e.FIRST_ADMIN.split(':')[0] as string).toLowerCase(), password: e.FIRST_ADMIN.slice(e.FIRST_ADMIN.indexOf(':') + 1) }
      : null,
    metricsToken: e.METRICS_TOKEN ?? null,
    provider:
      given.length === 0
        ? null
        : {
            issuer: e.OIDC_ISSUER as string,
            clientId: e.OIDC_CLIENT_ID as string,
            clientSecret: e.OIDC_CLIENT_SECRET as string,
            name: e.OIDC_NAME,
            scope: e.OIDC_SCOPE,
            roleClaim: e.OIDC_ROLE_CLAIM,
            roles: rolesOf(e.OIDC_ROLES),
          },
  };
}

/** What of a configuration has no effect or needs more, in a line each; told at the start. */
export function remarksOn(config: Config, environment: NodeJS.ProcessEnv): string[] {
  const remarks: string[] = [];
  const own = isOwnMachine(config.host);
  if (!environment.SECRET_KEY)
    remarks.push(
      'SECRET_KEY is not set: second factors set up and keys of networks sealed now are lost at the next start. Set it, the same for all servers of a database.',
    );
  if (!own && config.publicUrl === null)
    remarks.push(`PUBLIC_URL is not set: links are made for http://localhost:${config.port}, which opens on this machine only.`);
  if (!own && config.demoFolder !== null)
    remarks.push(
      `HOST=${config.host}: the demo's published passwords are not taken from other machines; set FIRST_ADMIN and own passwords.`,
    );
  if (config.provider && Object.keys(config.provider.roles).length === 0)
    remarks.push('OIDC_ROLES is not set: nobody gets a role from the organisation’s sign-in, so nobody gets in that way.');
  if (config.trustedProxy && !config.secure)
    remarks.push('TRUSTED_PROXY is set but PUBLIC_URL is not an https address: cookies are not bound to encryption.');
  if (environment.NODE_TLS_REJECT_UNAUTHORIZED === '0') remarks.push('NODE_TLS_REJECT_UNAUTHORIZED=0: certificates are not checked.');
  return remarks;
}
