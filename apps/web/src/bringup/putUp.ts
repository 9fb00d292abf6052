import { firmwarePieceBytes, type PieceTaken } from '@underpass/contracts';
import { call } from '../api/client.js';

/** Sends a file piece by piece, from where it is gone on with. */
export async function sendBytes(id: string, file: File, from: number, onSent: (bytes: number) => void): Promise<void> {
  const path = `bringup/firmware/${encodeURIComponent(id)}/bytes`;
  for (let at = from; at < file.size;) {
    const piece = file.slice(at, at + firmwarePieceBytes);
    ({ here: at } = await call<PieceTaken>(`${path}?at=${at}&of=${file.size}`, 'PUT', piece));
    onSent(at);
  }
}

/** An id and a version as they stand in the name of a file, such as tc-4.12.1-x86.img. */
export function namedIn(name: string): { id: string; version: string } {
  const id = name
    .replace(/\.(img|bin|iso|zip|gz|xz|fw|tar|raw)(?=$|\.)/gi, '')
    .replace(/[^A-Za-z0-9._-]+/g, '-')
    .replace(/^[^A-Za-z0-9]+/, '')
    .slice(0, 64);
  const version = /\d+(?:[._]\d+)+[a-z]?(?![a-z\d])/.exec(id)?.[0] ?? '';
  return { id, version };
}
