import { describe, expect, test } from '@jest/globals';
import type { Figures } from '@underpass/contracts';
import { rateOf } from './measure/rate.js';
import { speak } from '../ui/say.js';
import { headline, tell } from './words.js';

const english = await speak('en');

describe('the rate of a transfer', () => {
  const steady = (mbps: number, seconds: number, from = 0) =>
    Array.from({ length: seconds * 10 + 1 }, (_, i) => ({ atMs: from + i * 100, bytes: (mbps * 1e6 * i) / 80 }));

  test('is that of a steady line, whatever the ramp-up', () => {
    expect(rateOf(steady(40, 5))).toBeCloseTo(40, 6);
    const slowStart = steady(40, 6).map((point, i) => ({ ...point, bytes: i < 10 ? point.bytes / 20 : point.bytes - (40e6 / 8) * 0.5 }));
    expect(rateOf(slowStart)).toBeCloseTo(40, 1);
  });

  test('does not count a moment in which the page was held up, nor the burst after it', () => {
    const held = steady(30, 6).map((point, i, all) => (i > 20 && i < 30 ? { ...point, bytes: all[20]?.bytes ?? 0 } : point));
    expect(Math.abs((rateOf(held) ?? 0) / 30 - 1)).toBeLessThan(0.1);
  });

  test('is not known where nothing moved', () => {
    expect(rateOf([])).toBeNull();
    expect(
      rateOf([
        { atMs: 0, bytes: 0 },
        { atMs: 5000, bytes: 0 },
      ]),
    ).toBeNull();
  });
});

describe('what people are told', () => {
  const trips = { samples: 120, lost: 0, minMs: 20, medianMs: 31, p95Ms: 36, medianLowMs: 30, medianHighMs: 32 };
  const good: Figures = {
    roundTrips: trips,
    datagrams: { passes: true, sent: 200, lost: 0 },
    downMbps: 62,
    upMbps: 11,
    scene: { renderer: 'x', drawnBy: 'graphics', frames: 90, averageFps: 60, low1Fps: 55 },
    browser: { kind: 'browser', version: '1', touch: false, can: {} },
  };
  const wanted = { keyToPixelMs: 150, framesAtLeast: 20, voiceMosAtLeast: 4, lossAtMostPercent: 5, calls: true, camera: true };
  const say = (figures: Figures, home = true) => headline(tell(figures, wanted, english), home, true, english);

  test('everything fine, one thing short, two things short, something not known', () => {
    expect(say(good)).toEqual({ verdict: 'clear', text: 'Everything is fine from where you sit.', helps: null });
    const lossy = say({ ...good, datagrams: { passes: true, sent: 200, lost: 20 } });
    expect(lossy).toMatchObject({ verdict: 'limited', text: 'Your calls will break up now and then. Everything else is fine.' });
    expect(lossy.helps).toContain('router');
    const lost = tell({ ...good, datagrams: { passes: true, sent: 200, lost: 20 } }, wanted, english);
    expect(headline(lost, true, false, english).text).toBe('The picture will stick now and then. Everything else is fine.');
    expect(say({ ...good, downMbps: 2, upMbps: 0.4 }).text).toBe('The picture will stutter. Others will see you freeze in calls.');
    expect(say({ ...good, datagrams: { passes: false } }).verdict).toBe('unknown');
    expect(say({ ...good, roundTrips: { ...trips, samples: 8 } }).verdict).toBe('unknown');
    // five of two hundred may be 0.8 % or 5.7 %: a call stands the one and not the other
    const near = { ...good, datagrams: { passes: true, sent: 200, lost: 5 } };
    expect(say(near)).toEqual({ verdict: 'unknown', text: 'Most of it is fine. Something is near what your work needs.', helps: null });
    expect(tell(near, wanted, english)[1]).toMatchObject({ figure: '2.5 % lost', word: 'Not sure' });
  });

  test('a line that is quick only while nobody fills it is not fine', () => {
    const full = { ...good, addedDownMs: 20, addedUpMs: 180 };
    expect(tell(full, wanted, english)[0]).toMatchObject({
      word: 'Quick when quiet',
      more: 'While somebody fills the line it takes 180 ms longer.',
    });
    expect(say(full)).toMatchObject({ verdict: 'unknown', text: 'Most of it is fine. Something is near what your work needs.' });
  });

  test('more is wanted of the way where the work wants more', () => {
    const strict = { ...wanted, keyToPixelMs: 100, framesAtLeast: 30 };
    const words = (w: typeof wanted) =>
      tell({ ...good, downMbps: 4, roundTrips: { ...trips, medianMs: 45, medianLowMs: 44, medianHighMs: 46 } }, w, english).map(
        (part) => part?.word,
      );
    expect(words(wanted)).toEqual(['Quick', 'Steady', 'Enough', 'Plenty', 'Good']);
    expect(words(strict)).toEqual(['Slow', 'Steady', 'Too little', 'Plenty', 'Good']);
  });

  test('a step that is not over yet is told as nothing, never as a zero', () => {
    expect(tell({ roundTrips: trips }, wanted, english).map((part) => part?.word ?? null)).toEqual(['Quick', null, null, null, null]);
  });

  test('no trade words stand in the sentences', () => {
    const worst = tell(
      {
        ...good,
        roundTrips: { ...trips, medianMs: 300, p95Ms: 500 },
        datagrams: { passes: true, sent: 200, lost: 40 },
        downMbps: 1,
        upMbps: 0.1,
        scene: { renderer: 'x', frames: 9, averageFps: 5, low1Fps: 2 },
      },
      wanted,
      english,
    );
    const text = [
      ...worst.flatMap((part) => [part?.word, part?.more]),
      say(good).text,
      ...[1, 2, 3].map(() => headline(worst, false, true, english).helps),
    ].join(' ');
    expect(text).not.toMatch(/latency|jitter|packet|bandwidth|UDP|TCP|WebGL|codec/i);
  });

  test('the same is told in every language, with its own figures', async () => {
    const near = { ...good, datagrams: { passes: true, sent: 200, lost: 5 }, downMbps: 2.5 };
    const polish = await speak('pl');
    expect(tell(near, wanted, polish).map((part) => [part?.word, part?.figure])).toEqual([
      ['Szybko', '31 ms'],
      ['Nie na pewno', '2,5 % zgubione'],
      ['Za mało', '2,5 Mbit/s'],
      ['Dużo', '11 Mbit/s'],
      ['Dobrze', '60 klatek/s'],
    ]);
    expect([1, 3, 5].map((count) => polish.t('queued.text', { count }).split('.')[0])).toEqual([
      'Przed Tobą jest 1 osoba',
      'Przed Tobą są 3 osoby',
      'Przed Tobą jest 5 osób',
    ]);
    const german = await speak('de');
    expect(headline(tell(good, wanted, german), true, true, german).text).toBe('Von Ihrem Platz aus ist alles in Ordnung.');
    // a text that is missing would be told by its key
    for (const language of ['fr', 'es', 'nl'] as const) {
      const say = await speak(language);
      const told = tell({ ...near, upMbps: 0.1, scene: { renderer: 'x', frames: 9, averageFps: 5, low1Fps: 2 } }, wanted, say);
      for (const part of told)
        expect(`${part?.name} ${part?.word} ${part?.more}`).not.toMatch(/\b(part|quick|steady|down|up|picture)\.|{{/);
      expect(headline(told, false, true, say).helps).not.toMatch(/help\./);
    }
  });
});
