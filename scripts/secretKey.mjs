import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './ready.mjs';

/** What seals second factors and keys of networks: made once, kept beside the data, readable by its owner alone. */
export function secretKey() {
  if (process.env.SECRET_KEY) return process.env.SECRET_KEY;
  const folder = join(root, '.data');
  const file = join(folder, 'secret-key');
  if (!existsSync(file)) {
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 });
  }
  chmodSync(file, 0o600);
  return readFileSync(file, 'utf8').trim();
}
