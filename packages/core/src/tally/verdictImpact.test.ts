import { describe, expect, test } from '@jest/globals';
import type { Verdict } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { doing, made, settingTo } from '../change/index.js';
import { FactsReader, noCounts, summariseCrossing } from '../crossing/index.js';
import { modelOf } from '../estate/index.js';
import { verdictImpact } from './verdictImpact.js';

const { estate, measurements } = demoEstate();
const model = modelOf(estate, measurements);
const reader = new FactsReader(model, demoInstant);
const order: readonly Verdict[] = ['blocked', 'limited', 'unknown', 'clear'];
const standing = (of: FactsReader) => new Map(of.model.crossings.map((ref) => [ref.id, summariseCrossing(of.read(ref)!)]));
const before = standing(reader);

describe('a setting on every crossing', () => {
  test.each([
    ['for everybody', settingTo('picture.frameCap', 'organisation', '*', 60)],
    ['where it keeps people out', settingTo('security.personalDevices', 'organisation', '*', 'refused')],
    ['at one place', settingTo('picture.heldHeight', 'location', 'wexcombe', 1080)],
    ['that is as it was', settingTo('picture.frameCap', 'endpoint', 'WEX-TC-001', 30)],
  ] as const)('%s: as it is when the change was really made', (_, patch) => {
    const change = doing(patch);
    const impact = verdictImpact(reader, change);
    const really = standing(new FactsReader(model.after({ writes: made(model, change, demoInstant).writes }), demoInstant));
    const [was, is] = [noCounts(), noCounts()];
    let [better, worse, moved] = [0, 0, 0];
    for (const [id, old] of before) {
      const now = really.get(id)!;
      was[old.verdict]++;
      is[now.verdict]++;
      const rise = order.indexOf(now.verdict) - order.indexOf(old.verdict);
      if (rise > 0) better++;
      else if (rise < 0) worse++;
      else if (Math.abs(now.burden - old.burden) > 0.5) moved++;
    }
    expect(impact).toMatchObject({ evaluated: before.size, better, worse, before: was, after: is });
    expect(impact.better + impact.worse + impact.unchanged).toBe(impact.evaluated);
    expect(impact.improved + impact.weakened).toBe(moved);
    // only those that fall are named, with what they lose
    for (const { crossing, change: told } of impact.worst) {
      expect(order.indexOf(really.get(crossing)!.verdict)).toBeLessThan(order.indexOf(before.get(crossing)!.verdict));
      expect(told).toMatch(new RegExp(`^${before.get(crossing)!.verdict} becomes ${really.get(crossing)!.verdict}: .`));
    }
    expect(impact.worst.length).toBe(Math.min(10, worse));
  });

  test('those who are kept out are named, worst first; what keeps nobody out names nobody', () => {
    const change = doing(settingTo('security.personalDevices', 'organisation', '*', 'refused'));
    const kept = verdictImpact(reader, change);
    const then = standing(reader.after(change));
    expect(kept.worse).toBeGreaterThan(10);
    expect(kept.worst[0]?.change).toMatch(/becomes blocked: does not open any more$/);
    const lost = kept.worst.map(({ crossing }) => then.get(crossing)!.burden - before.get(crossing)!.burden);
    expect(lost).toEqual([...lost].sort((a, b) => b - a));
    expect(verdictImpact(reader, doing(settingTo('picture.frameCap', 'endpoint', 'WEX-TC-001', 30))).worst).toEqual([]);
  });
});
