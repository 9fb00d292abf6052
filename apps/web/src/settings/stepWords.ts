import type { Change, Setting } from '@underpass/contracts';
import { definitionOf } from '@underpass/core';
import { summaryOf } from '../crossings/summaryOf.js';
import { valueText } from './valueWords.js';

const place = ({ layer, target }: Pick<Setting, 'layer' | 'target'>): string =>
  layer === 'organisation' ? 'for the whole organisation' : `for ${layer} ${target}`;
const told = (entry: Pick<Setting, 'key' | 'value' | 'layer' | 'target'> & { locked?: boolean }): string =>
  `${definitionOf(entry.key)?.label ?? entry.key} ${valueText(entry.key, entry.value)} ${place(entry)}${entry.locked ? ', locked' : ''}`;

type KindPatch = Extract<Change['patches'][number], { kind: unknown }>;
function ruleStep(patch: KindPatch): string {
  if (patch.do === 'create') return `A rule comes: ${(patch.object as { name?: string }).name ?? patch.id}`;
  if (patch.do === 'remove') return `The rule ${patch.id} goes`;
  const fields = Object.entries(patch.set ?? {}).map(
    ([field, value]) => `${field} becomes ${typeof value === 'string' || typeof value === 'number' ? value : 'another'}`,
  );
  return `The rule ${patch.id}: ${fields.join(', ')}`;
}

/** The steps of a change in words, one each. */
export const stepsOf = (change: Change): string[] => [
  ...change.patches.map((patch) => {
    if (patch.do === 'setting') return told(patch);
    if (patch.do === 'create' && patch.kind === 'setting') return told(patch.object as Setting);
    if (patch.do === 'change' && patch.kind === 'setting') {
      const { value, locked } = (patch.set ?? {}) as Partial<Setting>;
      return [
        `Entry ${patch.id}`,
        value === undefined ? '' : `becomes ${typeof value === 'object' ? value.join(', ') : String(value)}`,
        locked === undefined ? '' : locked ? 'locked' : 'open again',
      ]
        .filter(Boolean)
        .join(', ');
    }
    if ('kind' in patch && patch.kind === 'usbRule') return ruleStep(patch);
    if (patch.do === 'remove' && patch.kind === 'setting') return `Entry ${patch.id} is taken away`;
    return summaryOf({ patches: [patch], hypotheses: [] });
  }),
  ...change.hypotheses.map((each) => summaryOf({ patches: [], hypotheses: [each] })),
];
