import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';

const root = new URL('../../../../', import.meta.url).pathname;
/** Where the directory server is: installed, or unpacked by `npm test` (scripts/test/slapd.mjs). */
const at = ['/', join(root, '.cache', 'slapd')].find((each) => existsSync(join(each, 'usr', 'sbin', 'slapd'))) ?? null;
export const hasSlapd = at !== null;

export const base = 'dc=saltmarsh,dc=example';
export const reader = { dn: `cn=reader,${base}`, secret: 'a secret of the reader' };

export interface Slapd {
  /** Unencrypted, on this machine. */
  plain: string;
  /** Encrypted, with a certificate that its own authority vouches for. */
  secure: string;
  securePort: number;
  authority: string;
  /** Puts these entries in place of all there are. */
  load: (ldif: string) => Promise<void>;
  stop: () => Promise<void>;
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

/** A certificate for this machine and whoever vouches for it, good for a day. */
function certificates(folder: string): void {
  const run = (...args: string[]) => {
    const done = spawnSync('openssl', args, { cwd: folder, encoding: 'utf8' });
    if (done.status !== 0) throw new Error(done.stderr);
  };
  const key = ['-newkey', 'rsa:2048', '-nodes'];
  run('req', '-x509', ...key, '-keyout', 'ca.key', '-out', 'ca.pem', '-days', '1', '-subj', '/CN=Authority of the tests');
  run('req', ...key, '-keyout', 'own.key', '-out', 'own.csr', '-subj', '/CN=localhost');
  writeFileSync(join(folder, 'own.ext'), 'subjectAltName=DNS:localhost,IP:127.0.0.1');
  run(
    'x509',
    '-req',
    '-in',
    'own.csr',
    '-CA',
    'ca.pem',
    '-CAkey',
    'ca.key',
    '-CAcreateserial',
    '-out',
    'own.pem',
    '-days',
    '1',
    '-extfile',
    'own.ext',
  );
}

/** A real directory server on loopback. It gives no more than a hundred entries at once, so that whoever wants all asks for pages. */
export async function startSlapd(): Promise<Slapd> {
  if (at === null) throw new Error('there is no directory server');
  const folder = mkdtempSync(join(tmpdir(), 'slapd-'));
  certificates(folder);
  const [plainPort, securePort] = [await freePort(), await freePort()];
  const data = join(folder, 'data');
  const schema = ['core', 'cosine', 'inetorgperson'].map((name) => `include ${join(at, 'etc/ldap/schema', `${name}.schema`)}`);
  const config = join(folder, 'slapd.conf');
  writeFileSync(
    config,
    [
      ...schema,
      `modulepath ${join(at, 'usr/lib/ldap')}`,
      'moduleload back_mdb',
      `TLSCertificateFile ${join(folder, 'own.pem')}`,
      `TLSCertificateKeyFile ${join(folder, 'own.key')}`,
      'sizelimit size.soft=100 size.hard=100 size.prtotal=unlimited',
      'database mdb',
      'maxsize 1073741824',
      `suffix "${base}"`,
      `rootdn "cn=admin,${base}"`,
      `directory ${data}`,
      'dbnosync',
      'access to attrs=userPassword by anonymous auth by * none',
      `access to * by dn.exact="${reader.dn}" read by * none`,
    ].join('\n'),
    { mode: 0o600 },
  );
  const env = { ...process.env, LD_LIBRARY_PATH: join(at, 'usr/lib/x86_64-linux-gnu') };
  const program = join(at, 'usr/sbin/slapd');
  let running: ReturnType<typeof spawn> | null = null;
  const stop = async () => {
    const child = running;
    running = null;
    if (!child || child.exitCode !== null) return;
    child.kill('SIGTERM');
    await new Promise((resolve) => child.once('exit', resolve));
  };
  const start = async () => {
    let said = '';
    const child = spawn(program, ['-d', '0', '-f', config, '-h', `ldap://127.0.0.1:${plainPort} ldaps://127.0.0.1:${securePort}`], { env });
    child.stderr.on('data', (part: Buffer) => (said += part.toString()));
    running = child;
    for (let i = 0; i < 200; i++) {
      if (child.exitCode !== null) throw new Error(`the directory server ended: ${said}`);
      const { connect } = await import('node:net');
      const open = await new Promise<boolean>((resolve) => {
        const socket = connect(plainPort, '127.0.0.1', () => (socket.destroy(), resolve(true)));
        socket.once('error', () => resolve(false));
      });
      if (open) return;
      await wait(25);
    }
    throw new Error('the directory server does not answer');
  };
  const load = async (ldif: string) => {
    await stop();
    rmSync(data, { recursive: true, force: true });
    mkdirSync(data);
    const own = [
      `dn: ${base}\nobjectClass: dcObject\nobjectClass: organization\ndc: saltmarsh\no: Saltmarsh`,
      `dn: ${reader.dn}\nobjectClass: applicationProcess\nobjectClass: simpleSecurityObject\ncn: reader\nuserPassword: ${reader.secret}`,
    ];
    const file = join(folder, 'all.ldif');
    writeFileSync(file, `${own.join('\n\n')}\n\n${ldif}`);
    const done = spawnSync(program, ['-Ta', '-q', '-f', config, '-l', file], { env, encoding: 'utf8' });
    if (done.status !== 0) throw new Error(`the entries cannot be loaded: ${done.stderr}`);
    await start();
  };
  return {
    plain: `ldap://127.0.0.1:${plainPort}`,
    secure: `ldaps://127.0.0.1:${securePort}`,
    securePort,
    authority: readFileSync(join(folder, 'ca.pem'), 'utf8'),
    load,
    stop: async () => {
      await stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Entries of an organisation as a directory writes them. */
export const unit = (name: string) => `dn: ou=${name},${base}\nobjectClass: organizationalUnit\nou: ${name}\n`;
export const person = (uid: string, name: string, ou: string, uuid?: string) =>
  `dn: uid=${uid},ou=${ou},${base}\nobjectClass: inetOrgPerson\nuid: ${uid}\ncn: ${name}\nsn: ${name.split(' ').at(-1)}\ndisplayName: ${name}\nuserPassword: never-read\n${uuid ? `entryUUID: ${uuid}\n` : ''}`;
export const group = (name: string, members: readonly string[]) =>
  `dn: cn=${name},ou=Groups,${base}\nobjectClass: groupOfNames\ncn: ${name}\n${members.map((member) => `member: ${member}`).join('\n')}\n`;
export const dnOf = (uid: string, ou: string) => `uid=${uid},ou=${ou},${base}`;
export const dnOfGroup = (name: string) => `cn=${name},ou=Groups,${base}`;
