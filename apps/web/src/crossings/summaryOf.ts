import type { Change, Hypothesis, Patch } from '@underpass/contracts';
import { catalogue, type SettingDefinition } from '@underpass/core';
import { said } from '../ui/said.js';

const definitions: Readonly<Record<string, SettingDefinition>> = catalogue;

const list = (record: object | undefined) => Object.keys(record ?? {}).join(', ');

const valueOf = (value: unknown): string =>
  typeof value === 'boolean'
    ? value
      ? 'yes'
      : 'no'
    : [value]
        .flat()
        .map((each) => said(String(each)))
        .join(', ');

function step(patch: Patch): string {
  switch (patch.do) {
    case 'setting':
      return `${definitions[patch.key]?.label ?? patch.key} ${valueOf(patch.value)} at ${patch.target === '*' ? 'the organisation' : patch.target}`;
    case 'change':
      return `${patch.kind} ${patch.id}: ${[list(patch.set), list(patch.add), list(patch.drop)].filter(Boolean).join(', ')}`;
    case 'create':
      return `${patch.kind} ${patch.id} added`;
    case 'remove':
      return `${patch.kind} ${patch.id} removed`;
    case 'move':
      return [patch.leave && `out of ${patch.leave}`, patch.join && `into ${patch.join}`].filter(Boolean).join(' and ');
  }
}

const supposed = (one: Hypothesis): string =>
  one.suppose === 'object'
    ? `suppose ${one.kind} ${one.id}: ${list(one.set)}`
    : one.suppose === 'drawing'
      ? `suppose ${one.endpoint} draws on its graphics`
      : `suppose another line for ${one.id}`;

/** A change in a few words, where nobody has given it a name. */
export const summaryOf = ({ patches, hypotheses }: Change): string => [...patches.map(step), ...hypotheses.map(supposed)].join(', ');
