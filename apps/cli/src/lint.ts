import { kindTraits } from '@underpass/contracts';
import { FactsReader, lintCrossing, modelOf } from '@underpass/core';
import { estateFrom } from './folder.js';
import type { Options } from './options.js';

/** What does not fit among the settings in force on the crossings of an estate. */
export function lint(options: Options, nowMs: number): object {
  const [folder = ''] = options.positional;
  const { estate, measurements } = estateFrom(folder);
  const reader = new FactsReader(modelOf(estate, measurements, { traits: kindTraits }), nowMs);
  const problems = reader.model.crossings.flatMap((ref) => {
    const facts = reader.read(ref);
    return (facts ? lintCrossing(facts) : []).map(({ rule, cause, consequence, remedy }) => ({
      ...{ rule, crossing: ref.id, cause, consequence },
      remedy: remedy.ask === undefined ? remedy.text : `${remedy.text}: ${remedy.ask}`,
    }));
  });
  return { problems };
}
