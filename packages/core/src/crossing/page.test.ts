import { expect, test } from '@jest/globals';
import { kindWords } from '@underpass/contracts';
import { readFileSync, writeFileSync } from 'node:fs';
import { everyField } from '../../test/fields.js';
import { otherValues } from './assumedFields.js';
import { inOrder } from './chance.js';
import { bayOfReason, deskWhy, type DeskReason } from './deskReason.js';
import { burdenTable } from './effect.js';
import { shippedThresholds, workWords } from './index.js';
import type { WorkKind } from '@underpass/contracts';

const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');

const plainly = <C extends DeskReason['code']>(code: C) => ({ code }) as unknown as DeskReason;
/** Every reason there is: a new one that is not here does not compile. */
const reasons: Record<DeskReason['code'], DeskReason> = {
  'screens not known': plainly('screens not known'),
  'fewer by setting': plainly('fewer by setting'),
  'fewer pixels by setting': plainly('fewer pixels by setting'),
  'shows the same': plainly('shows the same'),
  'too many pixels': plainly('too many pixels'),
  'pixels of the device': plainly('pixels of the device'),
  'too many screens': plainly('too many screens'),
  'port too small': plainly('port too small'),
  'port slow': { code: 'port slow', highestHz: 30 },
  'way too slow': { code: 'way too slow', bearsMs: 20 },
  'way too thin': { code: 'way too thin', mbps: 196.608 },
  'each job longer': { code: 'each job longer', seconds: 12 },
  'client cannot': { code: 'client cannot', clientKind: 'browser' },
  'rules forbid': plainly('rules forbid'),
  'personal device': plainly('personal device'),
  guest: plainly('guest'),
  'gateway without USB': plainly('gateway without USB'),
  'sound elsewhere': plainly('sound elsewhere'),
  'microphone off': plainly('microphone off'),
  'setting forbids': plainly('setting forbids'),
  'stays local': plainly('stays local'),
  'rule denies': plainly('rule denies'),
  'no rule': plainly('no rule'),
  'by hand': plainly('by hand'),
};

test('the page of what a crossing is weighed by is what the code has', () => {
  const instead = everyField.flatMap(({ kind, path }) => {
    const values = otherValues({ kind, id: '', name: '', field: path, value: undefined });
    if (values.length === 0) return [];
    const told =
      path === 'latitude' ? 'beside the far end; on the other side of the world' : values.map((each) => JSON.stringify(each)).join(', ');
    return [[kindWords[kind].one, path === 'latitude' ? 'where it is' : path, told]];
  });
  const works = Object.entries(shippedThresholds).map(([work, wanted]) => [
    ...[workWords[work as WorkKind], wanted.keyToPixelMs, wanted.framesAtLeast, wanted.voiceMosAtLeast ?? '–', wanted.usableWithinS],
  ]);
  const text = `# What a crossing is weighed by
Written by the tests (\`WRITE=yes npm test unit\`). What a crossing is: [crossing](crossing.md).

## What each kind of work wants
Common practice, no source; voice by ITU-T G.109. An estate can have others ([assumed](assumed.md)).

${table(['work', 'key to pixel, ms at most', 'frames a second at least', 'voice, MOS at least', 'usable within, s'], works)}

## How far a crossing is from what is wanted
Of two changes the one that leaves less is told first. The sum of these is on the scale of the findings' costs.

${table(
  ['of', 'because'],
  burdenTable.map(({ of, because }) => [of, because]),
)}

## What keeps something on the desk out of a session, or narrows it
As it is told after a name, and where on the way it lies.

${table(
  ['bay', 'told as'],
  Object.values(reasons).map((reason) => [bayOfReason(reason), deskWhy(reason)]),
)}

## How often what nobody knows is in order
By this the chance is told that a crossing which is Unknown is Clear; common practice, no source.

${table(
  ['not known', 'in order'],
  Object.entries(inOrder).map(([fact, share]) => [fact, `${Math.round(share * 100)} %`]),
)}

## What a field that nobody knows may be instead
Where something is taken to be so (a list that says nothing of it), the verdict is Unknown as long as one of these would make it another.

${table(['object', 'field', 'may be'], instead)}
`;
  const page = new URL('../../../../docs/crossing-weights.md', import.meta.url);
  if (process.env.WRITE) writeFileSync(page, text);
  expect(readFileSync(page, 'utf8')).toBe(text);
  expect(deskWhy(null)).toBe('');
});
