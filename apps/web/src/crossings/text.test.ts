import { expect, test } from '@jest/globals';
import type { CrossingView } from '@underpass/core';
import type { CrossingAnswer } from './crossingAnswer.js';
import { crossingText, sinceWhen } from './crossingText.js';
import { summaryOf } from './summaryOf.js';

const finding = (bay: string, text: string, remedy?: string) => ({
  bay,
  text,
  remedies: remedy ? [{ text: remedy, effectText: 'becomes Clear' }] : [],
});
const answer = {
  at: '2026-11-27T03:21:00Z',
  between: { person: { name: 'Greta' }, endpoint: { name: 'E1' }, location: { name: 'Hall' }, resource: { name: 'Desk' } },
  view: {
    verdict: 'limited',
    sentence: 'Too narrow.',
    day: { zone: 'Europe/Oslo' },
    findings: [finding('Link', 'Too narrow', 'Hold screens'), ...[1, 2, 3, 4, 5].map((n) => finding('Host', `Slow ${n}`))],
  },
} as unknown as CrossingAnswer;

test('a crossing as text says who, what is wrong, since when it is told, what would help and what is tried', () => {
  const text = crossingText(answer, { verdict: 'clear', sentence: 'Works.' } as CrossingView, 'Hold screens', 'http://x/crossings/1');
  expect(text.split('\n')).toEqual([
    'Greta on E1 at Hall through to Desk',
    'Limited: Too narrow.',
    expect.stringMatching(/^As evaluated .*03:21 \(04:21 there\)\.$/),
    '- Link: Too narrow',
    '  would help: Hold screens (becomes Clear)',
    '- Host: Slow 1',
    '- Host: Slow 2',
    '- Host: Slow 3',
    '- Host: Slow 4',
    '- and 1 more finding',
    'Tried on paper: Hold screens. Then Clear: Works.',
    'http://x/crossings/1',
  ]);
  expect(crossingText(answer, answer.view, null, 'u')).not.toContain('Tried');
});

test('a verdict is told since the change that brought it, and no longer than is known', () => {
  const entry = (hour: string, verdict: 'clear' | 'limited', cause: string) => ({
    at: `2026-11-27T${hour}:00:00Z`,
    verdict,
    delayMs: 9,
    frameRate: 30,
    cause,
  });
  const turned = [
    entry('01', 'limited', 'first'),
    entry('02', 'clear', 'mended'),
    entry('03', 'limited', 'line told'),
    entry('04', 'limited', 'x'),
  ];
  expect(sinceWhen(turned, 'limited', 'UTC')).toMatch(/^Limited since .*03:00: line told$/);
  expect(sinceWhen(turned.slice(0, 1), 'limited', 'UTC')).toMatch(/^Limited since at least .*01:00: first$/);
  // the history is not yet written, or ends on another verdict
  expect(sinceWhen(turned, 'clear', 'UTC')).toBeNull();
  expect(sinceWhen([], 'clear', 'UTC')).toBeNull();
  expect(crossingText(answer, answer.view, null, 'u', turned).split('\n')[2]).toMatch(/^Limited since/);
});

test('a change without a name is told by the words of its settings', () => {
  const setting = (key: string, value: never) => ({ do: 'setting' as const, key, layer: 'location' as const, target: 'hall', value });
  expect(summaryOf({ patches: [setting('picture.frameCap', 30 as never)], hypotheses: [] })).toMatch(/^Frame \w+.* 30 at hall$/);
  expect(summaryOf({ patches: [setting('picture.codec', 'hevc' as never)], hypotheses: [] })).toMatch(/ HEVC at hall$/);
  expect(summaryOf({ patches: [{ do: 'remove', kind: 'host', id: 'h' }], hypotheses: [] })).toBe('host h removed');
});
