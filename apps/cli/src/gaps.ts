import { computeFigures, FactsReader, GapsTally, tellGapStep } from '@underpass/core';
import { modelFrom } from './folder.js';
import type { Options } from './options.js';

/** What is known of an estate and what is not, and what is best measured next. */
export function gaps(options: Options, nowMs: number): object {
  const [folder = ''] = options.positional;
  const { model } = modelFrom(folder);
  const reader = new FactsReader(model, nowMs);
  const tally = new GapsTally();
  for (const ref of reader.model.crossings) {
    const facts = reader.read(ref);
    if (facts) tally.add(facts, computeFigures(facts));
  }
  const { facts, next, unknown } = tally.result();
  return {
    unknown,
    facts,
    next: next.map((step) => ({
      action: tellGapStep(step, model),
      location: step.location,
      crossings: step.crossings,
      minutes: step.minutes,
      people: step.people,
    })),
  };
}
