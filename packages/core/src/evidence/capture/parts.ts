import type { CaptureProblem } from './packet.js';

/** What came of a part of a file: how much was taken, how much more is needed at least, or why it cannot go on. */
export type Part = { taken: number; next?: PartReader } | { needs: number } | { stop: CaptureProblem };

/**
 * Reads one part of a file.
 * @param bytes what is there
 * @param at where in it the part begins
 * @param offset where in the file that is
 */
export type PartReader = (bytes: Uint8Array, at: number, offset: number) => Part;
