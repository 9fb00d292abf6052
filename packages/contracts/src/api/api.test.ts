import { describe, expect, test } from '@jest/globals';
import {
  ChangeRequest,
  DraftRequest,
  CheckLinkRequest,
  CrossingQuery,
  FromPage,
  ImportRequest,
  Key,
  MeasurementRequest,
  Screen,
  Setting,
} from '../index.js';

describe('what comes from outside is checked at the edge', () => {
  test('queries turn texts into numbers within bounds', () => {
    expect(CrossingQuery.parse({ limit: '20', offset: '40' })).toMatchObject({ limit: 20, offset: 40 });
    expect(CrossingQuery.parse({})).toMatchObject({ limit: 100, offset: 0 });
    for (const bad of [{ limit: '0' }, { limit: '501' }, { offset: '-1' }, { verdict: 'fine' }, { search: 'x'.repeat(101) }])
      expect(CrossingQuery.safeParse(bad).success).toBe(false);
  });

  test('keys carry nothing that could mean something elsewhere', () => {
    for (const good of ['HO-001', 'mv-avocet', 'a.b_c']) expect(Key.safeParse(good).success).toBe(true);
    for (const bad of ['', '../x', 'a b', "x';--", '-a', 'a/b', 'é', 'x'.repeat(65)])
      expect([bad, Key.safeParse(bad).success]).toEqual([bad, false]);
  });

  test('a change holds steps and hypotheses, at least one and not too many', () => {
    const setting = { do: 'setting', key: 'picture.frameCap', layer: 'location', target: 'hall', value: 20 };
    const good = (patches: object[], hypotheses: object[] = []) =>
      ChangeRequest.safeParse({ change: { patches, hypotheses }, summary: 'x' }).success;
    for (const step of [
      setting,
      { do: 'change', kind: 'host', id: 'H1', set: { 'graphics.mode': 'display', used: null } },
      { do: 'change', kind: 'person', id: 'P1', add: { groups: ['a'] }, drop: { groups: ['b'] } },
      { do: 'create', kind: 'region', id: 'r', object: { name: 'R' } },
      { do: 'remove', kind: 'region', id: 'r' },
      { do: 'move', leave: 'a', join: 'b' },
    ])
      expect([step, good([step])]).toEqual([step, true]);
    expect(good([], [{ suppose: 'line', kind: 'location', id: 'hall', downMbps: 900 }])).toBe(true);
    for (const patches of [
      [],
      [{ ...setting, layer: 'planet' }],
      [{ do: 'change', kind: 'castle', id: 'H1', set: { x: 1 } }],
      [{ do: 'change', kind: 'host', id: 'H1', set: { '__proto__.x': 1 } }],
      [{ do: 'create', kind: 'region', id: 'r', object: ['R'] }],
      [{ do: 'move', people: [] }],
      Array.from({ length: 1001 }, () => setting),
    ])
      expect(good(patches)).toBe(false);
    expect(good([], [{ suppose: 'line', kind: 'location', id: 'hall', downMbps: -1 }])).toBe(false);
    expect(ChangeRequest.safeParse({ change: { patches: [setting] }, summary: ' ' }).success).toBe(false);
    expect(DraftRequest.safeParse({ name: 'x', change: {} }).success).toBe(false);
    expect(DraftRequest.safeParse({ name: 'x', change: { patches: [setting] } }).success).toBe(true);
  });

  test('an import names plain files only', () => {
    expect(ImportRequest.safeParse({ files: { 'people.csv': 'id\n' } }).success).toBe(true);
    for (const name of ['../people.csv', 'a/b.csv', 'x\u0000.csv', ''])
      expect(ImportRequest.safeParse({ files: { [name]: '' } }).success).toBe(false);
  });

  test('messages of the field check are bounded, and a figure that cannot be is refused', () => {
    const figures = (content: object) => FromPage.safeParse({ type: 'figures', figures: content, done: true }).success;
    expect(figures({ downMbps: 94.2, datagrams: { passes: true, sent: 200, lost: 3 } })).toBe(true);
    for (const bad of [
      { downMbps: -1 },
      { upMbps: Infinity },
      { screens: Array.from({ length: 17 }, () => ({ widthPx: 800, heightPx: 600, scale: 1 })) },
      { roundTrips: { samples: 3 } },
      { scene: { renderer: 'x'.repeat(301), frames: 1, averageFps: 1, low1Fps: 1 } },
    ])
      expect(figures(bad)).toBe(false);
    expect(FromPage.safeParse({ type: 'offer', sdp: 'x'.repeat(20_001) }).success).toBe(false);
    expect(FromPage.safeParse({ type: 'reboot' }).success).toBe(false);
  });

  test('links and measurements need a place, and links do not live for ever', () => {
    expect(CheckLinkRequest.parse({ location: 'hall' }).hours).toBe(72);
    expect(CheckLinkRequest.safeParse({ location: 'hall', hours: 10_000 }).success).toBe(false);
    expect(CheckLinkRequest.safeParse({}).success).toBe(false);
    expect(MeasurementRequest.safeParse({ text: '1', vantage: 'the moon', location: 'hall' }).success).toBe(false);
  });

  test('objects refuse what no device has', () => {
    expect(Screen.safeParse({ widthPx: 1920, heightPx: 1080 }).success).toBe(true);
    for (const bad of [
      { widthPx: 10, heightPx: 1080 },
      { widthPx: 1920.5, heightPx: 1080 },
      { widthPx: 1920, heightPx: 1080, refreshHz: 0 },
      { widthPx: 1920, heightPx: 1080, port: 'vga' },
    ])
      expect(Screen.safeParse(bad).success).toBe(false);
    expect(
      Setting.safeParse({ id: 's', key: 'picture.frameCap', layer: 'location', target: 'hall', value: 20, condition: { weather: 'rain' } })
        .success,
    ).toBe(false);
  });
});
