import { bigEndian } from './bytes.js';
import { isPcap, pcapReader } from './pcap.js';
import { isPcapng, pcapngReader } from './pcapng.js';
import type { CaptureSink } from './packet.js';
import type { PartReader } from './parts.js';

/**
 * Reads a capture file as it comes, piece by piece: pcap and pcapng, told apart by their first bytes. What was read of a broken file
 * is told, then what is wrong and where.
 * @example const reader = new CaptureReader({ packet: take, problem: tell }); for (const piece of pieces) reader.push(piece); reader.end();
 */
export class CaptureReader {
  /** What came and is not read yet; put together only once it is enough to go on. */
  private pieces: Uint8Array[] = [];
  private waiting = 0;
  /** Where in the file that begins. */
  private offset = 0;
  /** How much has to be there before it is worth looking again. */
  private needs = 4;
  private part: PartReader | null = null;
  private stopped = false;

  constructor(private readonly sink: CaptureSink) {}

  push(piece: Uint8Array): void {
    if (this.stopped) return;
    this.pieces.push(piece);
    this.waiting += piece.length;
    if (this.waiting < this.needs) {
      // what was given is its owner's again
      this.pieces.push((this.pieces.pop() as Uint8Array).slice());
      return;
    }
    const bytes = joined(this.pieces, this.waiting);
    let at = 0;
    while (bytes.length - at >= this.needs) {
      if (!this.part && !this.begin(bytes)) return;
      const found = (this.part as PartReader)(bytes, at, this.offset + at);
      if ('stop' in found) return this.stop(found.stop.offset, found.stop.text);
      if ('needs' in found) {
        this.needs = found.needs;
        break;
      }
      at += found.taken;
      this.needs = 1;
      if (found.next) this.part = found.next;
    }
    this.offset += at;
    this.waiting = bytes.length - at;
    this.pieces = this.waiting ? [bytes.slice(at)] : [];
  }

  /** No more comes. */
  end(): void {
    if (this.stopped) return;
    this.stopped = true;
    const { waiting, offset, part } = this;
    if (waiting === 0 && part) return;
    this.sink.problem({
      offset: offset + waiting,
      text: part ? `ends within a packet: ${waiting} bytes of at least ${this.needs} are there` : 'is too short for a capture',
    });
  }

  private begin(bytes: Uint8Array): boolean {
    const magic = bigEndian.u32(bytes, 0);
    if (isPcap(magic)) this.part = pcapReader(this.sink);
    else if (isPcapng(magic)) this.part = pcapngReader(this.sink);
    else this.stop(0, 'is no capture: it begins like neither pcap nor pcapng');
    return this.part !== null;
  }

  private stop(offset: number, text: string): void {
    this.stopped = true;
    this.pieces = [];
    this.sink.problem({ offset, text });
  }
}

function joined(pieces: readonly Uint8Array[], length: number): Uint8Array {
  if (pieces.length === 1) return pieces[0] as Uint8Array;
  const all = new Uint8Array(length);
  let at = 0;
  for (const piece of pieces) {
    all.set(piece, at);
    at += piece.length;
  }
  return all;
}

/** Whether bytes begin like a capture file. */
export const isCapture = (bytes: Uint8Array): boolean => {
  if (bytes.length < 4) return false;
  const magic = bigEndian.u32(bytes, 0);
  return isPcap(magic) || isPcapng(magic);
};
