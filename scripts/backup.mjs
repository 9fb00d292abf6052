// Backup and restore of everything an instance keeps. Only node: modules and PostgreSQL's own tools.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdtempSync,
  openSync,
  readSync,
  closeSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { binaries, startCluster } from './cluster.mjs';
import { ensureBuilt, root, say } from './ready.mjs';

const format = 'underpass backup';
const layout = 1;
const longestHead = 4096;
const safe = (name) => {
  if (!/^[A-Za-z0-9_]{1,50}$/.test(name)) throw new Error(`The database “${name}” has a name that is not letters, digits and underscores.`);
  return name;
};

/** Names of the migrations this version knows, oldest first. */
const migrations = () =>
  readdirSync(join(root, 'apps/server/src/database/migrations'))
    .map((file) => /^(\d+)-(\w+)\.ts$/.exec(file))
    .filter(Boolean)
    .sort((a, b) => Number(a[1]) - Number(b[1]))
    .map(([, stamp, name]) => `${name}${stamp}`);

/** The database that is meant: DATABASE_URL, or the project's own. */
async function target() {
  let stop = () => undefined;
  let url = process.env.DATABASE_URL;
  if (!url) {
    const cluster = await startCluster('postgres', 4610, say);
    url = cluster.url('underpass');
    stop = cluster.stop;
  }
  const bin = binaries();
  if (!bin) throw new Error('PostgreSQL’s tools are not installed. Install Debian’s package postgresql-client.');
  const address = new URL(url);
  const database = safe(address.pathname.slice(1));
  const env = {
    PATH: process.env.PATH,
    PGHOST: address.hostname,
    PGPORT: address.port || '5432',
    PGUSER: decodeURIComponent(address.username),
    PGPASSWORD: decodeURIComponent(address.password),
    LC_ALL: 'C',
  };
  const run = (tool, args, options = {}) =>
    spawnSync(join(bin, tool), args, { env, encoding: 'utf8', maxBuffer: 64 * 1024 * 1024, ...options });
  const sql = (database, text) => {
    const done = run('psql', ['-X', '-q', '-tA', '-v', 'ON_ERROR_STOP=1', '-d', database, '-c', text]);
    if (done.status !== 0) throw new Error(`The database refused: ${done.stderr.trim().split('\n')[0]}`);
    return done.stdout.trim();
  };
  const at = (name) => {
    const copy = new URL(url);
    copy.pathname = `/${name}`;
    return copy.href;
  };
  return { database, run, sql, at, stop };
}

async function hashOf(file, start = 0) {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file, { start }), hash);
  return hash.digest('hex');
}

/** Writes one consistent, compressed file with its version and hash. */
export async function backup(file) {
  if (!file) throw new Error('backup: give the file to write');
  const path = resolve(process.env.INIT_CWD ?? process.cwd(), file);
  if (existsSync(path)) throw new Error(`${file}: is there already; choose another name`);
  if (!existsSync(dirname(path))) throw new Error(`${file}: there is no such folder`);
  const { database, run, sql, stop } = await target();
  const folder = mkdtempSync(join(tmpdir(), 'underpass-backup-'));
  try {
    const known = sql(database, `SELECT coalesce((SELECT name FROM migrations ORDER BY id DESC LIMIT 1), '')`);
    const dump = join(folder, 'dump');
    // one transaction: what is written meanwhile is in it whole or not at all
    const done = run('pg_dump', ['--format=custom', '--compress=6', '--no-owner', '--no-privileges', `--file=${dump}`, database]);
    if (done.status !== 0) throw new Error(`The database could not be read: ${done.stderr.trim().split('\n')[0]}`);
    const head = {
      format,
      layout,
      madeAt: new Date().toISOString(),
      migration: known,
      bytes: statSync(dump).size,
      sha256: await hashOf(dump),
    };
    const part = `${path}.part`;
    const out = createWriteStream(part, { mode: 0o600 });
    out.write(`${JSON.stringify(head)}\n`);
    await pipeline(createReadStream(dump), out);
    renameSync(part, path);
    return { file: path, migration: known, bytes: statSync(path).size, sha256: head.sha256 };
  } finally {
    rmSync(folder, { recursive: true, force: true });
    rmSync(`${path}.part`, { force: true });
    stop();
  }
}

/** What a file says it is, if it is a backup, whole and of a version that is known here. */
async function checked(file, path) {
  if (!existsSync(path) || !statSync(path).isFile()) throw new Error(`${file}: there is no such file`);
  const bytes = Buffer.alloc(longestHead);
  const handle = openSync(path, 'r');
  const read = readSync(handle, bytes, 0, longestHead, 0);
  closeSync(handle);
  const end = bytes.subarray(0, read).indexOf(10);
  let head = null;
  try {
    head = JSON.parse(bytes.subarray(0, Math.max(0, end)).toString('utf8'));
  } catch {
    // told below
  }
  if (head?.format !== format) throw new Error(`${file}: is not a backup of Underpass`);
  if (head.layout !== layout) throw new Error(`${file}: was made by a newer Underpass (layout ${head.layout}); use that one`);
  const size = statSync(path).size - end - 1;
  if (size !== head.bytes) throw new Error(`${file}: is damaged: ${size} bytes of ${head.bytes} are there`);
  if ((await hashOf(path, end + 1)) !== head.sha256) throw new Error(`${file}: is damaged: its content does not fit its hash`);
  if (!migrations().includes(head.migration))
    throw new Error(`${file}: was made by a newer Underpass (${head.migration}); restore it into that one, or a later one`);
  return { head, start: end + 1 };
}

/** Puts a backup in the database's place. What was there stays beside it under another name until the next restore. */
export async function restore(file) {
  if (!file) throw new Error('restore: give the backup file');
  const path = resolve(process.env.INIT_CWD ?? process.cwd(), file);
  const { head, start } = await checked(file, path);
  const { database, run, sql, at, stop } = await target();
  const fresh = safe(`${database.slice(0, 30)}_restored_${process.pid}`);
  const before = safe(`${database.slice(0, 30)}_before`);
  const folder = mkdtempSync(join(tmpdir(), 'underpass-restore-'));
  try {
    const others = () =>
      Number(sql('postgres', `SELECT count(*) FROM pg_stat_activity WHERE datname = '${database}' AND pid <> pg_backend_pid()`));
    if (others() > 0)
      throw new Error('Underpass is running on this database. Stop it first, so that nobody loses what they write meanwhile.');
    const dump = join(folder, 'dump');
    await pipeline(createReadStream(path, { start }), createWriteStream(dump, { mode: 0o600 }));
    sql('postgres', `CREATE DATABASE ${fresh}`);
    const done = run('pg_restore', ['--no-owner', '--no-privileges', '--exit-on-error', '-d', fresh, dump]);
    if (done.status !== 0) throw new Error(`The backup could not be read in: ${done.stderr.trim().split('\n')[0]}`);
    ensureBuilt();
    const moved = spawnSync(process.execPath, [join(root, 'apps/server/dist/database/migrate.js')], {
      env: { ...process.env, DATABASE_URL: at(fresh) },
      encoding: 'utf8',
    });
    if (moved.status !== 0) throw new Error(`The backup could not be brought to this version: ${moved.stderr.trim().split('\n').at(-1)}`);
    const objects = Number(sql(fresh, 'SELECT count(*) FROM estate_object WHERE NOT deleted'));
    const version = sql(fresh, 'SELECT name FROM migrations ORDER BY id DESC LIMIT 1');
    if (others() > 0) throw new Error('Underpass was started meanwhile. Stop it, then restore again.');
    sql('postgres', `DROP DATABASE IF EXISTS ${before}`);
    if (sql('postgres', `SELECT count(*) FROM pg_database WHERE datname = '${database}'`) === '1')
      sql('postgres', `ALTER DATABASE ${database} RENAME TO ${before}`);
    sql('postgres', `ALTER DATABASE ${fresh} RENAME TO ${database}`);
    return { restored: basename(path), madeAt: head.madeAt, from: head.migration, to: version, objects, earlierKeptAs: before };
  } finally {
    try {
      sql('postgres', `DROP DATABASE IF EXISTS ${fresh}`);
    } catch {
      // it was never made, or the database is away: nothing of it is used
    }
    rmSync(folder, { recursive: true, force: true });
    stop();
  }
}
