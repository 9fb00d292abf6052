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
  const view = viewOf(facts, data.change);
  postMessage({ n: data.n, view, tookMs: performance.now() - started });
};
