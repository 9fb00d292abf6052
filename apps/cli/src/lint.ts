import { FactsReader, lintCrossing } from '@underpass/core';
import { modelFrom } from './folder.js';
import type { Options } from './options.js';

/** What does not fit among the settings in force on the crossings of an estate. */
export function lint(options: Options, nowMs: number): object {
  const [folder = ''] = options.positional;
  const { model } = modelFrom(folder);
  const reader = new FactsReader(model, nowMs);
  const problems = reader.model.crossings.flatMap((ref) => {
    const facts = reader.read(ref);
    return (facts ? lintCrossing(facts) : []).map(({ rule, cause, consequence, remedy }) => ({
      ...{ rule, crossing: ref.id, cause, consequence },
      remedy: remedy.ask === undefined ? remedy.text : `${remedy.text}: ${remedy.ask}`,
    }));
  });
  return { problems };
}
