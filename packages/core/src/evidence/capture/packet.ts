/** A packet of a capture file. */
export interface CapturedPacket {
  /** Counted from 1 over the whole file, as analysers number frames. */
  number: number;
  /** When it was seen: whole seconds since 1970, and nanoseconds within that second; null where the file does not say. */
  atS: number | null;
  atNs: number;
  /** What its first bytes are, by the number that the capture formats use (1 is Ethernet). */
  linkType: number;
  /** The bytes that were kept; valid until the reader is given more. */
  bytes: Uint8Array;
  /** How long it was on the wire; more than is kept where the capture cuts packets off. */
  originalLength: number;
  /** Where its bytes begin in the file. */
  offset: number;
}

/** Something wrong with a capture file, and where. */
export interface CaptureProblem {
  offset: number;
  text: string;
}

/** What a reader tells as it goes. */
export interface CaptureSink {
  packet: (packet: CapturedPacket) => void;
  problem: (problem: CaptureProblem) => void;
}

/** Longest packet that is believed; formats say no more than what was agreed when the capture began, mostly 262 144. */
export const longestPacket = 16 * 1024 * 1024;
