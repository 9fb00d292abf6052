import { describe, expect, test } from '@jest/globals';
import { quick } from '../../test/quickSignon.js';
import { signonTimeline, type SignonFacts, type SignonStep } from './index.js';

const step = (name: string, more: Partial<SignonFacts>): SignonStep => {
  const found = signonTimeline({ ...quick, ...more }).steps.find((each) => each.name === name);
  if (!found) throw new Error(`no ${name}`);
  return found;
};
const close = (value: number): number => expect.closeTo(value, 9) as unknown as number;

describe('what is in doubt of a step, beside how long it takes', () => {
  test('by cable or by Wi-Fi is not known: two seconds more, and by what an estate says', () => {
    const joins = (wired: boolean | undefined, more: Partial<SignonFacts> = {}) => step('network up', { alwaysOn: false, wired, ...more });
    expect([joins(true), joins(false), joins(undefined)]).toMatchObject([
      { seconds: 2, moreS: 0, bay: 'Local network' },
      { seconds: 4, moreS: 0 },
      { seconds: 2, moreS: 2 },
    ]);
  });

  test('an assumed step is off by 15 %, each of its round trips by what they are; a computed one by its round trips alone', () => {
    // the form: 0.5 s and two round trips of 0.1, each off by 0.01
    expect(step('sign-in form', { rttSpreadMs: 10 })).toMatchObject({ seconds: close(0.7), spreadS: close(0.02 + 0.7 * 0.15), moreS: 0 });
    expect(step('first useful picture', { rttSpreadMs: 10 })).toMatchObject({
      seconds: close(0.2),
      spreadS: close(0.01),
      source: 'computed',
    });
    // what a person does is not off, what was timed is not
    expect(step('second factor', { secondFactor: true, rttSpreadMs: 10 })).toMatchObject({ spreadS: close(0.04) });
    expect(step('broker', { measured: { broker: 9 }, rttSpreadMs: 10 })).toMatchObject({
      seconds: 9,
      spreadS: 0,
      moreS: 0,
      source: 'measured',
    });
  });

  test('a profile nobody weighed may take as long as its largest', () => {
    // 100 MB more at 100 Mbit/s are 8 s
    expect(step('profile attach', { profileMB: 50, profileHighMB: 150 })).toMatchObject({
      seconds: close(5.5),
      moreS: close(8),
      source: 'computed',
    });
    expect(step('profile attach', { profileHighMB: 100 })).toMatchObject({ seconds: close(1.5), moreS: close(8), source: 'assumed' });
  });

  test('a line whose rate is not known may take four times as long', () => {
    expect(step('first useful picture', { rateKnown: false })).toMatchObject({
      seconds: close(0.2),
      moreS: close(0.4),
      source: 'assumed',
      spreadS: close(0.2 * 0.15),
    });
  });

  test('everybody signs on: the first picture by their load, its interval from few to many; where the line is wide nobody notices', () => {
    // 1 Mbit at 1 Mbit/s is 1 s alone; 300 people within 900 s: 1.5 s; 150 within 1800: 1.09; 450 within 300: all at once
    const storm = { value: 300, low: 150, high: 450, lineMbps: 1 };
    const picture = step('first useful picture', { storm });
    expect(picture).toMatchObject({ seconds: close(0.1 + 1.5), bay: 'Link' });
    const low = 1 / (1 - 150 / 1800);
    expect(picture.spreadS).toBeCloseTo(1.5 - low, 9);
    // 450 s at most, less what the interval goes down by already
    expect(picture.moreS).toBeCloseTo(450 - 1.5 - (1.5 - low), 9);
    // within ten times the time the load is a tenth
    expect(step('first useful picture', { storm, stormMinutes: 150 }).seconds).toBeCloseTo(0.1 + 1 / (1 - 300 / 9000), 9);
    // beside those who work it takes 2 s anyhow
    expect(step('first useful picture', { storm, availableMbps: 0.5 })).toMatchObject({
      seconds: close(2.1),
      spreadS: 0,
      moreS: close(448),
    });
    expect(step('first useful picture', { storm: { ...storm, lineMbps: 1000 } })).toMatchObject({
      seconds: close(0.2),
      spreadS: 0,
      moreS: 0,
    });
  });

  test('each step lies in its bay', () => {
    const all = signonTimeline({
      ...quick,
      alwaysOn: false,
      singleSignOn: false,
      entryLink: false,
      resources: 2,
      hostAsleep: true,
      preSession: true,
      secondFactor: true,
      deliveredMB: 10,
    }).steps;
    expect(Object.fromEntries(all.map(({ name, bay, byPerson }) => [name, byPerson ? `${bay}, a person` : bay]))).toEqual({
      'endpoint boot': 'Endpoint',
      'network up': 'Local network',
      'client start': 'Endpoint',
      'sign-in form': 'Gateway',
      password: 'Desk, a person',
      'second factor': 'Gateway, a person',
      'list of resources': 'Gateway',
      choose: 'Desk, a person',
      broker: 'Gateway',
      wake: 'Host',
      'session create': 'Host',
      'pre-session sign-in': 'Gateway',
      'profile attach': 'Workspace',
      'applications delivered': 'Workspace',
      shell: 'Workspace',
      'first useful picture': 'Link',
    });
    expect(step('power on', { hostOff: true }).bay).toBe('Host');
  });
});
