import type { LdapSettings } from '@underpass/contracts';
import { Client, type Entry } from 'ldapts';
import type { ConnectionOptions } from 'node:tls';
import { isLoopback } from '../../edge/plainAddress.js';
import type { Target } from '../../outward/targets.js';
import { ProblemError } from '../../problems/problem.js';

/** What is waited for, ms: a connection, an answer. */
const connectMs = 10_000;
const answerMs = 30_000;
/** More than any directory of one organisation has; what goes on and on ends here. */
const mostEntries = 300_000;
const mostBytes = 300 * 1024 * 1024;

/** An entry as it is handed on: its name, and its attributes with their values. */
export type PlainEntry = readonly [dn: string, attributes: readonly (readonly [name: string, values: readonly string[]])[]];

const needed = ['objectClass', 'cn', 'uid', 'displayName', 'employeeNumber', 'ou', 'member', 'uniqueMember', 'entryUUID'];

/** Attributes that are asked for, and none besides: no password, no address. */
const attributesOf = ({ keyAttribute, nameAttribute, placeAttribute }: LdapSettings): string[] => [
  ...new Set([...needed, keyAttribute, nameAttribute, placeAttribute].filter(Boolean)),
];

export const portOf = (address: string): { host: string; port: number; secure: boolean } => {
  const url = new URL(address.toLowerCase().replace(/^ldap/, 'http'));
  const secure = /^ldaps:/i.test(address);
  // the usual port of what it is read as is left out
  const given = /:(\d+)\/?$/.exec(address)?.[1];
  return { host: url.hostname, port: given ? Number(given) : secure ? 636 : 389, secure };
};

/**
 * Reads a directory, a part at a time [RFC 2696]. Nothing is said to it before the connection is encrypted and its certificate is
 * vouched for, unless it is on this machine.
 */
export async function* readLdap(settings: LdapSettings, secret: string | null, target: Target): AsyncGenerator<PlainEntry[]> {
  const { secure } = portOf(settings.address);
  const tls: ConnectionOptions = {
    rejectUnauthorized: true,
    // an address proves itself as an address; a name is also asked for
    ...(target.host === target.address ? {} : { servername: target.host }),
    ...(settings.certificates.trim() === '' ? {} : { ca: settings.certificates }),
    minVersion: 'TLSv1.2',
  };
  const at = target.address.includes(':') ? `[${target.address}]` : target.address;
  const client = new Client({
    url: `${secure ? 'ldaps' : 'ldap'}://${at}:${target.port}`,
    timeout: answerMs,
    connectTimeout: connectMs,
    strictDN: false,
    ...(secure ? { tlsOptions: tls } : {}),
  });
  let entries = 0;
  let bytes = 0;
  try {
    if (!secure && !isLoopback(target.address)) await client.startTLS(tls);
    if (settings.bindDn !== '') await client.bind(settings.bindDn, secret ?? '');
    const asked = {
      scope: 'sub',
      filter: settings.filter,
      attributes: attributesOf(settings),
      paged: { pageSize: settings.pageSize },
    } as const;
    for await (const { searchEntries } of client.searchPaginated(settings.base, asked)) {
      const part = searchEntries.map(plain);
      entries += part.length;
      for (const [, attributes] of part) for (const [, values] of attributes) for (const value of values) bytes += value.length;
      if (entries > mostEntries || bytes > mostBytes)
        throw new ProblemError(
          422,
          'Too large',
          `The directory has more than ${mostEntries} entries, or more than is read at once. Narrow the filter.`,
        );
      yield part;
    }
  } catch (error) {
    throw error instanceof ProblemError ? error : problemOf(error as Error & { code?: unknown }, settings, target);
  } finally {
    await client.unbind().catch(() => undefined);
  }
}

const plain = ({ dn, ...attributes }: Entry): PlainEntry => [
  dn,
  Object.entries(attributes).map(([name, value]) => [
    name.toLowerCase(),
    (Array.isArray(value) ? value : [value]).map((each) => (typeof each === 'string' ? each : Buffer.from(each).toString('utf8'))),
  ]),
];

const byName: Record<string, (settings: LdapSettings) => string> = {
  InvalidCredentialsError: ({ bindDn }) => `The directory does not take the name ${bindDn} with this password.`,
  NoSuchObjectError: ({ base }) => `The directory has no entry ${base}.`,
  InvalidDNSyntaxError: ({ base, bindDn }) => `The directory does not read ${base} or ${bindDn} as the name of an entry.`,
  InsufficientAccessError: ({ bindDn, base }) => `${bindDn || 'Without a name one'} may not read ${base}.`,
  SizeLimitExceededError: () =>
    'The directory gives fewer entries than there are. Its limit has to be raised for this name, or the page be smaller.',
  TimeLimitExceededError: () => 'The directory took too long to answer.',
  StrongAuthRequiredError: () => 'The directory asks for another way to sign in.',
  ConfidentialityRequiredError: () => 'The directory asks for encryption: use ldaps://.',
};

/** What went wrong, in words that say what to do. */
function problemOf(error: Error & { code?: unknown }, settings: LdapSettings, { host, port }: Target): ProblemError {
  const where = `${host}:${port}`;
  const told = (detail: string) => new ProblemError(422, 'Directory', detail);
  const known = byName[error.constructor.name] ?? byName[error.name];
  if (known) return told(known(settings));
  const code = String(error.code ?? '');
  if (code === 'ECONNREFUSED') return told(`Nobody answers at ${where}.`);
  if (['ETIMEDOUT', 'EHOSTUNREACH', 'ENETUNREACH'].includes(code) || /timeout/i.test(error.message))
    return told(`${where} does not answer in time.`);
  if (/CERT|SELF_SIGNED|UNABLE_TO|ALTNAME/.test(code))
    return told(`The certificate of ${where} is not vouched for (${code}). Give the certificate of whoever signed it, or its right name.`);
  if (code === 'ECONNRESET' || /TLS|SSL|EPROTO/.test(code + error.message))
    return told(`${where} does not speak encrypted here. See whether ldaps:// and its port are right.`);
  return told(`${where}: ${error.message.slice(0, 200)}`);
}
