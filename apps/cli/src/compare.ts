import { compareCrossings, FactsReader } from '@underpass/core';
import { CommandError } from './commandError.js';
import { modelFrom } from './folder.js';
import type { Options } from './options.js';

/** What is otherwise on two crossings of an estate, by how much of the difference each explains. */
export function compare(options: Options, nowMs: number): object {
  const [folder = ''] = options.positional;
  const { model } = modelFrom(folder);
  const reader = new FactsReader(model, nowMs);
  const read = (name: 'a' | 'b') => {
    const id = options.text(name);
    if (id === undefined) throw new CommandError(`--${name}: is missing`);
    const ref = reader.model.crossings.find((each) => each.id === id);
    const facts = ref && reader.read(ref);
    if (!facts) throw new CommandError(`--${name}: no crossing is called “${id}”; give person~endpoint~resource`);
    return facts;
  };
  const differences = compareCrossings(read('a'), read('b'));
  return { differences: differences.map((each) => ({ ...each, explains: Math.round(each.explains * 1000) / 1000 })) };
}
