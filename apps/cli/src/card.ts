import { ReadBack, writableTarget, type CardTarget } from '@underpass/core';
import { closeSync, fsyncSync, openSync, readdirSync, readFileSync, readlinkSync, readSync, statSync, writeSync } from 'node:fs';
import { basename, join } from 'node:path';
import { CommandError } from './commandError.js';
import type { Options } from './options.js';

const pieceBytes = 4 * 1024 * 1024;

const text = (file: string): string | null => {
  try {
    return readFileSync(file, 'utf8').trim();
  } catch {
    return null;
  }
};
const names = (folder: string): string[] => {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
};

/** What a block device is, as Linux tells of it in /sys and /proc; what it does not tell is not known. */
function blockDevice(path: string, rdev: number): CardTarget {
  const node = `${Number((BigInt(rdev) >> 8n) & 0xfffn)}:${Number((BigInt(rdev) & 0xffn) | ((BigInt(rdev) >> 12n) & 0xfff00n))}`;
  const sys = `/sys/dev/block/${node}`;
  const part = text(`${sys}/partition`) !== null;
  const own = basename(names('/sys/dev/block').includes(node) ? readlinkSync(sys) : path);
  const parts = [own, ...names(sys).filter((name) => name.startsWith(own))];
  const mounts = (text('/proc/self/mounts') ?? '').split('\n').flatMap((line) => {
    const [device = '', at = ''] = line.split(' ');
    return parts.includes(basename(device)) ? [at.replaceAll('\\040', ' ')] : [];
  });
  const swaps = (text('/proc/swaps') ?? '').split('\n').map((line) => basename(line.split(/\s/)[0] ?? ''));
  const held = parts.some((name) => swaps.includes(name) || names(`/sys/class/block/${name}/holders`).length > 0);
  const blocks = text(`${sys}/size`);
  const removable = text(`${sys}/removable`);
  const label = names('/dev/disk/by-label').find((name) => {
    try {
      return parts.includes(basename(readlinkSync(join('/dev/disk/by-label', name))));
    } catch {
      return false;
    }
  });
  return {
    ...{
      path,
      is: part ? 'part' : 'disk',
      bytes: blocks === null ? null : Number(blocks) * 512,
      label: label?.replaceAll('\\x20', ' ') ?? null,
    },
    ...{ removable: removable === null ? null : removable === '1', mounts, held },
  };
}

function targetAt(path: string): CardTarget {
  const plain = { path, label: null, removable: null, mounts: [], held: false };
  try {
    const found = statSync(path);
    if (found.isBlockDevice()) return blockDevice(path, found.rdev);
    return { ...plain, is: found.isFile() ? 'file' : 'other', bytes: found.size };
  } catch {
    return { ...plain, is: 'file', bytes: null };
  }
}

function open(path: string, flags: string): number {
  try {
    return openSync(path, flags);
  } catch (error) {
    throw new CommandError(
      `${path}: cannot be ${flags === 'r' ? 'read' : 'written'} (${(error as NodeJS.ErrnoException).code ?? 'no reason given'})`,
    );
  }
}

/** The file piece by piece. */
function* pieces(path: string): Generator<Uint8Array> {
  const file = open(path, 'r');
  try {
    for (;;) {
      const piece = Buffer.alloc(pieceBytes);
      const length = readSync(file, piece, 0, pieceBytes, null);
      if (length === 0) return;
      yield piece.subarray(0, length);
    }
  } finally {
    closeSync(file);
  }
}

function write(image: string, target: string): void {
  const file = open(target, statOf(target) ? 'r+' : 'wx');
  try {
    for (const piece of pieces(image)) for (let at = 0; at < piece.length;) at += writeSync(file, piece, at);
    fsyncSync(file);
  } catch (error) {
    if (error instanceof CommandError) throw error;
    throw new CommandError(
      `${target}: writing broke off (${(error as NodeJS.ErrnoException).code ?? 'no reason given'}); what is on it is not whole`,
    );
  } finally {
    closeSync(file);
  }
}
const statOf = (path: string) => {
  try {
    return statSync(path);
  } catch {
    return null;
  }
};

/** Writes an image to a card, or to a file that stands in for one, where that is asked; reads it back and holds it against the image. */
export function card(options: Options): object {
  const [image = '', path = ''] = options.positional;
  const found = statOf(image);
  if (!found?.isFile()) throw new CommandError(`${image}: is no file`);
  if (found.size === 0) throw new CommandError(`${image}: is empty`);
  const own = statOf(path);
  if (own && own.ino === found.ino && own.dev === found.dev) throw new CommandError(`${path}: is the image itself`);
  const sum = options.text('sha256')?.toLowerCase();
  if (sum !== undefined && !/^[0-9a-f]{64}$/.test(sum)) throw new CommandError('--sha256: must be 64 hexadecimal digits');
  const writing = options.flag('write');
  if (writing) {
    const gigabytes = options.number('size', 0.001, 2000);
    const judged = writableTarget(targetAt(path), found.size, {
      label: options.text('label'),
      bytes: gigabytes === undefined ? undefined : gigabytes * 1e9,
    });
    if (!judged.ok) throw new CommandError(`${judged.fault.place}: ${judged.fault.problem}; ${judged.fault.remedy}`);
    // a wrong image is not written at all
    if (sum !== undefined) assertSum(image, sum);
    write(image, path);
  }
  const back = new ReadBack();
  const card = pieces(path);
  for (const piece of pieces(image)) {
    back.addImage(piece);
    const next = card.next();
    if (next.done) back.endCard();
    else back.addCard(next.value);
  }
  card.return(undefined);
  const { bytes, imageSha256, cardSha256, same, firstOtherAt } = back.end();
  if (sum !== undefined && imageSha256 !== sum) throw new CommandError(`${image}: has the sum ${imageSha256}, not ${sum}`);
  return { written: writing, bytes, imageSha256, cardSha256, same, firstOtherAt };
}

function assertSum(image: string, sum: string): void {
  const back = new ReadBack();
  for (const piece of pieces(image)) {
    back.addImage(piece);
    back.addCard(piece);
  }
  const { imageSha256 } = back.end();
  if (imageSha256 !== sum) throw new CommandError(`${image}: has the sum ${imageSha256}, not ${sum}; nothing was written`);
}
