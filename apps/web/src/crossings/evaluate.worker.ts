import { Change, completed, kindTraits, referencesOf } from '@underpass/contracts';
import { readerOfSlice, staysWithin, viewAfter, type CrossingView, type FactsReader, type Slice } from '@underpass/core';

export interface TryMessage {
  n: number;
  slice?: Slice;
  change: unknown;
}
/** The crossing as it would be; or that the whole estate is needed for it; or why it could not be worked out. */
export type TryAnswer = { n: number } & ({ view: CrossingView | null; tookMs: number } | { beyond: true } | { fault: string });

/** Evaluates a crossing away from the page, with the same core as the server. */
let known: { slice: Slice; reader: FactsReader } | null = null;

function answer({ slice, change }: TryMessage): Omit<TryAnswer, 'n'> {
  if (slice && known?.slice !== slice) known = { slice, reader: readerOfSlice(slice, { complete: completed, traits: kindTraits }) };
  if (!known) return { beyond: true };
  const parsed = Change.safeParse(change);
  if (!parsed.success) return { fault: 'it is not a change that this version knows' };
  const started = performance.now();
  if (!staysWithin(known.reader, parsed.data, referencesOf)) return { beyond: true };
  return { view: viewAfter({ reader: known.reader, ref: known.slice.ref }, parsed.data), tookMs: performance.now() - started };
}

self.onmessage = ({ data }: MessageEvent<TryMessage>) => {
  try {
    postMessage({ n: data.n, ...answer(data) });
  } catch (error) {
    // told on the page: a change that cannot be worked out must not look like one without effect
    postMessage({ n: data.n, fault: (error as Error).message });
  }
};
