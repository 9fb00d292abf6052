import { expect, test } from '@jest/globals';
import type { Change, Hypothesis, Patch } from '@underpass/contracts';
import { ByChange } from './byChange.js';

const change = (patches: Patch[], hypotheses: Hypothesis[] = []): Change => ({ patches, hypotheses });
const setting = (target: string, key: string, value: string | number | boolean | string[], more: object = {}): Change =>
  change([{ do: 'setting', layer: 'location', target, key, value, ...more } as Patch]);
const line = (more: object): Hypothesis => ({ suppose: 'line', kind: 'location', id: 'hall', ...more });

test('changes are told apart by every word of theirs', () => {
  const all = [
    setting('hall', 'picture.frameCap', 30),
    setting('hall', 'picture.frameCap', '30'),
    setting('hall', 'picture.frameCap', 60),
    setting('hall', 'picture.heldHeight', 30),
    setting('dock', 'picture.frameCap', 30),
    setting('hall', 'picture.frameCap', 30, { layer: 'endpoint' }),
    setting('hall', 'picture.frameCap', 30, { was: null }),
    setting('hall', 'redirection.devices', ['camera']),
    change([], [line({ downMbps: 30 })]),
    change([], [line({ upMbps: 30 })]),
    change([], [line({ downMbps: 30, id: 'dock' })]),
    change([], [line({ downMbps: 30, kind: 'endpoint' })]),
    change([], [line({ downMbps: 30 }), line({ upMbps: 30 })]),
    change(setting('hall', 'picture.frameCap', 30).patches, [line({ downMbps: 30 })]),
    change([...setting('hall', 'picture.frameCap', 30).patches, ...setting('hall', 'picture.heldHeight', 30).patches]),
  ];
  const known = new ByChange<number>(100);
  all.forEach((each, i) => {
    expect([i, known.get(each)]).toEqual([i, undefined]);
    known.set(each, i);
  });
  expect(all.map((each) => known.get(JSON.parse(JSON.stringify(each)) as Change))).toEqual(all.map((_, i) => i));
});

test('where there are too many all are forgotten, and it goes on from there', () => {
  const known = new ByChange<number>(3);
  const each = (i: number) => setting('hall', 'picture.frameCap', i);
  for (let i = 0; i < 4; i++) known.set(each(i), i);
  expect([0, 1, 2, 3].map((i) => known.get(each(i)))).toEqual([undefined, undefined, undefined, 3]);
});
