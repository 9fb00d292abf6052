import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './ready.mjs';

/** A key that is made once and kept beside the data, readable by its owner alone; one that is given counts. */
function kept(name, given) {
  if (given) return given;
  const folder = join(root, '.data');
  const file = join(folder, name);
  if (!existsSync(file)) {
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 });
  }
  chmodSync(file, 0o600);
  return readFileSync(file, 'utf8').trim();
}

/** What seals second factors and keys of networks. */
export const secretKey = () => kept('secret-key', process.env.SECRET_KEY);
/** What devices come with when they tell how they started. */
export const deviceKey = () => kept('device-key', process.env.DEVICE_KEY);
