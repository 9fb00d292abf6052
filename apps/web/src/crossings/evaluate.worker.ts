import { factsFromJson, viewOf, type Change, type CrossingFacts, type FactsJson } from '@underpass/core';

/** Evaluates a crossing away from the page, with the same core as the server. */
let facts: CrossingFacts | null = null;
let source: FactsJson | null = null;

self.onmessage = ({ data }: MessageEvent<{ n: number; facts?: FactsJson; change: Change }>) => {
  if (data.facts && data.facts !== source) {
    source = data.facts;
    facts = factsFromJson(data.facts);
  }
  if (!facts) return;
  const started = performance.now();
  try {
    const view = viewOf(facts, data.change);
    postMessage({ n: data.n, view, tookMs: performance.now() - started });
  } catch (error) {
    // told on the page: a change that cannot be worked out must not look like one without effect
    postMessage({ n: data.n, fault: (error as Error).message });
  }
};
