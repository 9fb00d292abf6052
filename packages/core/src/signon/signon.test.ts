import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { criticalPath, signonTimeline, type SignonFacts, type SignonStep } from './index.js';

const facts: SignonFacts = {
  rttMs: 30,
  wired: true,
  browserClient: false,
  thinClient: true,
  alwaysOn: false,
  secondFactor: true,
  preSession: true,
  singleSignOn: false,
  entryLink: false,
  resources: 5,
  startOnly: true,
  hostAsleep: true,
  hostOff: false,
  profileMB: 640,
  profileMbps: 1000,
  deliveredMB: 0,
  publishedApp: false,
  firstFrameBytes: 546_000,
  availableMbps: 2,
};

describe('sign-on', () => {
  test('the default durations are those of the handbook (common practice, or from memory)', () => {
    const { steps, totalS } = signonTimeline(facts);
    const seconds = Object.fromEntries(steps.map((step) => [step.name, step.seconds]));
    expect(seconds).toMatchObject({
      'endpoint boot': 15,
      'network up': 2,
      'client start': 1.5,
      password: 6,
      choose: 4,
      wake: 25,
      'session create': 4,
      shell: 5,
    });
    expect(seconds['sign-in form']).toBeCloseTo(0.5 + 2 * 0.03, 9);
    expect(seconds['second factor']).toBeCloseTo(10 + 4 * 0.03, 9);
    expect(seconds['list of resources']).toBeCloseTo(3 + 10 * 0.03 + 5 * 0.2, 9);
    expect(seconds['profile attach']).toBeCloseTo(1.5 + 5.12, 9);
    // 546 kB at 2 Mbit/s is 2.2 s: the wait after every switch
    expect(seconds['first useful picture']).toBeCloseTo(2.184 + 0.03, 9);
    expect(totalS).toBeCloseTo(
      Object.values(seconds).reduce((sum, s) => sum + s, 0),
      9,
    );
  });

  test('every shortcut saves time and none costs any', () => {
    const base = signonTimeline(facts).totalS;
    for (const shortcut of [
      { alwaysOn: true },
      { singleSignOn: true },
      { entryLink: true },
      { resources: 1 },
      { hostAsleep: false },
      { profileMB: 10 },
      { publishedApp: true },
      { secondFactor: false },
    ] as Partial<SignonFacts>[])
      expect(signonTimeline({ ...facts, ...shortcut }).totalS).toBeLessThan(base);
  });

  test('what is delivered beside the profile counts only where it takes longer', () => {
    const beside = signonTimeline({ ...facts, deliveredMB: 300 });
    expect(beside.totalS).toBeCloseTo(signonTimeline(facts).totalS, 9);
    expect(beside.critical).not.toContain('applications delivered');
    const longer = signonTimeline({ ...facts, deliveredMB: 4000 });
    expect(longer.critical).toContain('applications delivered');
    expect(longer.critical).not.toContain('profile attach');
  });

  test('the total is the longest way through any set of steps, as trying every way gives it', () => {
    const graph = fc
      .array(fc.record({ seconds: fc.integer({ min: 1, max: 50 }), before: fc.array(fc.nat(), { maxLength: 3 }) }), {
        minLength: 1,
        maxLength: 9,
      })
      .map((list) =>
        list.map(({ seconds, before }, i): SignonStep => ({
          name: `s${i}`,
          bay: 'Host',
          seconds,
          spreadS: 0,
          byPerson: false,
          source: 'assumed',
          after: i === 0 ? [] : [...new Set(before.map((n) => `s${n % i}`))],
        })),
      );
    fc.assert(
      fc.property(graph, (steps) => {
        const byName = new Map(steps.map((step) => [step.name, step]));
        const end = (step: SignonStep): number =>
          step.seconds + Math.max(0, ...step.after.map((name) => end(byName.get(name) as SignonStep)));
        const result = criticalPath(steps);
        expect(result.totalS).toBe(Math.max(...steps.map(end)));
        expect(result.critical.reduce((sum, name) => sum + (byName.get(name)?.seconds ?? 0), 0)).toBe(result.totalS);
      }),
    );
  });
});
