import { describe, expect, test } from '@jest/globals';
import { instant } from '../../test/small.js';
import { twoPlaces } from '../../test/twoPlaces.js';
import { doing, settingTo } from '../change/index.js';
import { computeFigures, FactsReader } from '../crossing/index.js';
import type { CrossingRef } from '../estate/index.js';
import { SavingsTally } from './index.js';

const box = {
  ownership: 'managed',
  deviceClass: 'thin-client',
  platform: 'thin',
  processor: 'x86-64',
  cores: 4,
  clientKind: 'native client',
};
/** Two at one place, of whom one has a link of their own already, and one elsewhere. */
const world = {
  person: { bo: { name: 'Bo', kind: 'staff', location: 'hall-a', groups: ['staff-a'] } },
  endpoint: { 'box-bo': { name: 'Box Bo', location: 'hall-a', person: 'bo', ...box } },
  setting: { link: { key: 'session.entryLink', layer: 'endpoint', target: 'box-bo', value: true, locked: false } },
};
const reader = new FactsReader(twoPlaces(world), instant);

describe('what shortcuts save a group', () => {
  const signonSavings = (from: FactsReader, crossings: readonly CrossingRef[]) => {
    const tally = new SavingsTally(from.model.organisation);
    for (const ref of crossings) tally.add(ref, () => from.read(ref));
    return tally.result();
  };
  const crossings = reader.model.crossings.filter(({ resource }) => /-a$/.test(resource));
  const answer = signonSavings(reader, crossings);

  test('each person counts once, and the entry link is the sum of what it saves each, in hours', () => {
    const first = [...new Map([...crossings].reverse().map((ref) => [ref.person, ref])).values()];
    const saved = first.map((ref) => {
      const facts = reader.read(ref)!;
      const linked = reader.after(doing(settingTo('session.entryLink', 'endpoint', facts.endpoint.id, true))).read(ref)!;
      return Math.max(0, computeFigures(facts).timeline.totalS - computeFigures(linked).timeline.totalS);
    });
    const sum = saved.reduce((total, seconds) => total + seconds, 0);
    const link = answer.savings.find(({ id }) => id === 'entry link')!;
    expect(answer.people).toBe(first.length);
    expect([answer.people, link.people]).toEqual([2, 1]);
    expect(link.people).toBe(saved.filter((seconds) => seconds > 0).length);
    expect(link.savedS).toBeCloseTo(sum / link.people, 9);
    // seconds × sign-ins a day × working days, in hours [handbook]
    expect(link.hoursAYear).toBeCloseTo((sum * answer.signInsPerDay * answer.workingDays) / 3600, 9);
    expect(answer.meanS).toBeCloseTo(
      first.reduce((total, ref) => total + computeFigures(reader.read(ref)!).timeline.totalS, 0) / first.length,
      9,
    );
  });

  test('the organisation’s own days count, and nobody is nothing', () => {
    const busy = new FactsReader(twoPlaces({ ...world, organisation: { organisation: { signInsPerDay: 6, workingDays: 365 } } }), instant);
    const more = signonSavings(busy, crossings);
    for (const [i, { hoursAYear }] of more.savings.entries())
      expect(hoursAYear).toBeCloseTo(((answer.savings[i]?.hoursAYear ?? 0) * (6 * 365)) / (answer.signInsPerDay * answer.workingDays), 6);
    expect(signonSavings(reader, [])).toMatchObject({ people: 0, meanS: 0, savings: [] });
  });
});
