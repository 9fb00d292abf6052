import { bad, good, type Result } from '../../units/result.js';

/** What an image would be written to, as the machine tells of it. */
export interface CardTarget {
  /** As somebody named it: a path. */
  path: string;
  /** A file stands in for a card; a disk is a block device as a whole, a part one partition of it. */
  is: 'file' | 'disk' | 'part' | 'other';
  /** Bytes that it holds; null where that is not known: a file grows. */
  bytes: number | null;
  /** What it calls itself. */
  label: string | null;
  /** Whether it can be taken out, as the machine says. */
  removable: boolean | null;
  /** Where it, or a part of it, is mounted. */
  mounts: readonly string[];
  /** It, or a part of it, holds swapped memory or belongs to a set of disks. */
  held: boolean;
}

/** Mounts without which a machine does not run. */
const ofSystem = /^\/(?:$|boot|usr|var|home|etc|root|opt|srv)/;
/** A disk above this is no card: 2 TB is the largest of the standard in use [SD Association: SDXC ends at 2 TB; from memory]. */
const mostCardBytes = 2_000_000_000_000;

/**
 * Whether an image may be written there. Whoever writes says what they mean by its size and label, never by a letter alone, which is another
 * one's after the next start. What looks like the disk of a system is refused, whatever was said.
 * @param meant what somebody said that they mean: its label, or its bytes to within a hundredth
 */
export function writableTarget(
  target: CardTarget,
  imageBytes: number,
  meant: { label?: string | undefined; bytes?: number | undefined },
): Result<true> {
  const { path, is, bytes, label, removable, mounts, held } = target;
  if (is === 'other') return bad(path, 'is no file and no disk', 'name a file, or a card as a whole');
  if (is === 'part') return bad(path, 'is one part of a disk', 'name the card as a whole: the image brings its own parts');
  if (is === 'disk') {
    const system = mounts.find((mount) => ofSystem.test(mount));
    if (system !== undefined) return bad(path, `holds ${system}: it is a disk of this system`, 'name the card');
    if (held) return bad(path, 'is in use by this system (swap, or a set of disks)', 'name the card');
    if (removable !== true)
      return bad(path, 'cannot be taken out, as this machine says: it looks like a disk of the system', 'name a card or stick');
    if (bytes !== null && bytes > mostCardBytes) return bad(path, `holds ${sizeWords(bytes)}: that is no card`, 'name the card');
    if (mounts.length > 0) return bad(path, `is mounted at ${mounts[0]}`, 'unmount it first');
    if (meant.label === undefined && meant.bytes === undefined)
      return bad(
        path,
        'is named by its path alone',
        `say what you mean as well: its label${label === null ? '' : ` (${label})`} or its size`,
      );
    if (meant.label !== undefined && meant.label !== label)
      return bad(path, `is called ${label === null ? 'nothing' : `“${label}”`}, not “${meant.label}”`, 'look which card it is');
    if (meant.bytes !== undefined && (bytes === null || Math.abs(bytes - meant.bytes) > meant.bytes / 100))
      return bad(
        path,
        `holds ${bytes === null ? 'nobody knows how much' : sizeWords(bytes)}, not ${sizeWords(meant.bytes)}`,
        'look which card it is',
      );
  }
  if (is === 'file' && bytes !== null && bytes > 0) {
    if (meant.bytes === undefined)
      return bad(
        path,
        `is a file that holds ${sizeWords(bytes)} already`,
        'say its size as well if it stands in for a card, or name a new one',
      );
    if (Math.abs(bytes - meant.bytes) > meant.bytes / 100)
      return bad(path, `holds ${sizeWords(bytes)}, not ${sizeWords(meant.bytes)}`, 'look which file it is');
  }
  if (bytes !== null && bytes > 0 && bytes < imageBytes)
    return bad(path, `holds ${sizeWords(bytes)}; the image has ${sizeWords(imageBytes)}`, 'take a larger card');
  return good(true);
}

const sizeWords = (bytes: number): string => (bytes >= 1e9 ? `${(bytes / 1e9).toFixed(2)} GB` : `${(bytes / 1e6).toFixed(1)} MB`);
