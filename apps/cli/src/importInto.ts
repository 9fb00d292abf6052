import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { CommandError } from './commandError.js';
import type { Options } from './options.js';

/** Imports an estate folder into a running server: a dry run, or with --apply yes all or nothing. */
export async function importInto(options: Options): Promise<object> {
  const folder = options.positional[0];
  if (!folder) throw new CommandError('import: give the estate folder');
  const server = options.text('server') ?? 'http://127.0.0.1:4600';
  const apply = options.choice('apply', ['yes', 'no'] as const) === 'yes';
  const [email, password] = [process.env.UNDERPASS_EMAIL, process.env.UNDERPASS_PASSWORD];
  if (!email || !password) throw new CommandError('import: set UNDERPASS_EMAIL and UNDERPASS_PASSWORD');
  let names: string[];
  try {
    names = readdirSync(folder).filter((name) => /\.(csv|ya?ml)$/.test(name));
  } catch {
    throw new CommandError(`${folder}: there is no such folder`);
  }
  const files = Object.fromEntries(names.map((name) => [name, readFileSync(join(folder, name), 'utf8')]));
  const call = async (path: string, body: object, cookie = '') => {
    const response = await fetch(`${server}/api/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-underpass': '1', cookie },
      body: JSON.stringify(body),
    }).catch(() => {
      throw new CommandError(`${server}: no answer; is it running?`);
    });
    const content = (await response.json().catch(() => ({}))) as Record<string, unknown>;
    if (!response.ok) throw new CommandError(`${server}: ${String(content.detail ?? content.title ?? response.status)}`);
    return { response, content };
  };
  const code = process.env.UNDERPASS_CODE;
  const { response } = await call('session', { email, password, ...(code ? { code } : {}) });
  const cookie = response.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  const { content } = await call('estate/import', { files, apply }, cookie);
  let job = content as { id: string; state: string; result?: { rejected?: unknown[] } };
  while (job.state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, 300));
    job = (await (await fetch(`${server}/api/estate/import/${job.id}`, { headers: { cookie } })).json()) as typeof job;
  }
  return job;
}
