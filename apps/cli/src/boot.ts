import { boot as start, BootReader, assumedOf } from '@underpass/core';
import { CommandError } from './commandError.js';
import { estateFrom } from './folder.js';
import type { Options } from './options.js';

/** Simulates the start of an endpoint of an estate folder. */
export function boot(options: Options, nowMs: number): object {
  const [folder = ''] = options.positional;
  const { estate } = estateFrom(folder);
  const id = options.text('endpoint');
  if (id === undefined) throw new CommandError('--endpoint: is missing');
  const byId = <T extends { id: string }>(list: readonly T[]) => {
    const found = new Map(list.map((each) => [each.id, each]));
    return (key: string) => found.get(key);
  };
  const [organisation] = estate.organisation;
  const reader = new BootReader(
    {
      ...estate,
      endpoint: byId(estate.endpoint),
      location: byId(estate.location),
      ...(organisation ? { assumed: assumedOf(organisation) } : {}),
    },
    nowMs,
  );
  const facts = reader.read(id);
  if (!facts) throw new CommandError(`--endpoint: no endpoint has the id “${id}”`);
  const { steps, broken, notes, messages } = start(facts);
  return {
    steps: steps.map(({ name, status, durationMs, detail }) => ({ name, status, durationMs: Math.round(durationMs), detail })),
    brokenStep: broken?.step ?? null,
    cause: broken?.cause ?? null,
    ...(broken ? { mend: broken.mend, shows: broken.shows } : {}),
    notes: notes.map(({ text }) => text),
    messages: messages.map(({ atMs, ...message }) => ({ atMs: Math.round(atMs), ...message })),
  };
}
