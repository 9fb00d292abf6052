import { describe, expect, test } from '@jest/globals';
import type { Bay } from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { modelOf } from '../estate/index.js';
import { FactsReader, type CrossingFacts } from '../crossing/index.js';
import { viewOf, whyOf, type SectionQuestion } from './index.js';

const { estate, measurements } = demoEstate();
const reader = new FactsReader(modelOf(estate, measurements), demoInstant);
const views = reader.model.crossings.filter((_, i) => i % 5 === 0).map((ref) => viewOf(reader.read(ref) as CrossingFacts));
const one = (endpoint: string, resource: string) => {
  const ref = reader.model.crossings.find((each) => each.endpoint === endpoint && each.resource === resource);
  return reader.read(ref as NonNullable<typeof ref>) as CrossingFacts;
};
const order: Bay[] = ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'];
const questions: SectionQuestion[] = ['open', 'usable', 'feel', 'works'];

describe('the section drawing', () => {
  test('always has the seven bays in their order, and the sum of its parts is its total', () => {
    for (const view of views)
      for (const question of questions) {
        const section = view.sections[question];
        expect(section.bays.map((bay) => bay.bay)).toEqual(order);
        expect(section.bays.reduce((sum, bay) => sum + bay.delayMs, 0)).toBeCloseTo(section.totalDelayMs, 6);
        expect(section.bays.reduce((sum, bay) => sum + bay.signonS, 0)).toBeCloseTo(section.totalSignonS, 6);
        for (const bay of section.bays) {
          expect(bay.facts.length).toBeGreaterThan(0);
          expect(bay.label.length).toBeGreaterThan(0);
          if (bay.state === 'short') expect(bay.headroom).toBeLessThan(1);
          if (bay.state === 'fits') expect(bay.headroom).toBeGreaterThanOrEqual(0.99);
        }
      }
  });

  test('is short where the verdict of how it feels is Limited, not known where it is Unknown', () => {
    for (const view of views) {
      if (view.verdict === 'blocked') continue;
      const feel = view.questions.find(({ key }) => key === 'feel')?.verdict;
      const states = view.sections.feel.bays.map((bay) => bay.state);
      if (feel === 'limited') expect(states).toContain('short');
      const frames = view.compare.find((row) => row.name === 'Frame rate')?.value ?? 0;
      // frames below the cap are short of what is asked for, though they may be enough; an unsteady local network has a limit of its own
      states.splice(order.indexOf('Local network'), 1);
      if (feel === 'clear' && frames >= view.settings['picture.frameCap'] - 0.5) expect(states).not.toContain('short');
    }
  });

  test('ends at the broken step: what lies behind is not reached, not failed', () => {
    const { bays, steps } = viewOf(one('MV-001', 'crew-log')).sections.open;
    expect(bays.map((bay) => bay.state)).toEqual(['fits', 'fits', 'fits', 'fits', 'blocked', 'not reached', 'not reached']);
    const broken = steps.findIndex((step) => step.state === 'broken');
    expect(steps[broken]?.name).toBe('signed in');
    expect(steps.slice(broken + 1).every((step) => step.state === 'not reached')).toBe(true);
  });

  test('draws what does not get through besides the picture as a duct up to its break', () => {
    const { ducts } = viewOf(one('WEX-TC-014', 'timetable')).sections.feel;
    expect(ducts).toEqual([{ name: 'Card reader', bay: 'Gateway', why: 'the rules do not let it through' }]);
  });

  test('says of every figure where it comes from, and shows the one that is not used', () => {
    const link = viewOf(one('WEX-TC-014', 'timetable')).sections.feel.bays[3];
    expect(link?.facts[0]).toMatchObject({ source: 'measured', text: 'Down 205 Mbit/s', notUsed: '250 Mbit/s declared, not used' });
    for (const view of views)
      for (const bay of view.sections.feel.bays)
        for (const fact of bay.facts) expect(['measured', 'reported', 'declared', 'assumed', 'computed']).toContain(fact.source);
  });
});

describe('the sentence and the four questions', () => {
  test('agree with the verdict and stand without the picture', () => {
    const rank = { blocked: 3, limited: 2, unknown: 1, clear: 0 };
    for (const view of views) {
      expect(view.sentence).toMatch(/^\S.*\.$/);
      const worst = view.questions.reduce(
        (most, question) => (rank[question.verdict] > rank[most] ? question.verdict : most),
        'clear' as keyof typeof rank,
      );
      expect(worst).toBe(view.verdict);
      expect(view.questions.map((question) => question.question)).toEqual([
        'Does it open?',
        'How long until it is usable?',
        'How does it feel?',
        'What works on the desk?',
      ]);
    }
  });

  test('the compared figures turn amber where they pass their limit, and are not told Clear where their interval does', () => {
    for (const view of views)
      for (const row of view.compare) {
        if (row.value === null || row.wanted === null || row.name === 'Bandwidth needed') continue;
        const short = row.better === 'less' ? row.value > row.wanted : row.value < row.wanted - (row.name === 'Frame rate' ? 0.05 : 0);
        const open = row.better === 'less' ? row.high! > row.wanted : row.low! < row.wanted - (row.name === 'Frame rate' ? 0.05 : 0);
        const may = short ? ['limited', 'unknown'] : open ? ['unknown'] : ['clear', 'unknown'];
        expect([row.name, row.value, may]).toEqual([row.name, row.value, expect.arrayContaining([row.verdict])]);
      }
  });

  test('every control knows which layer gave its value', () => {
    const why = whyOf(one('TOL-TC-001', 'counter'));
    expect(why['picture.codec']).toEqual({ value: 'hevc', from: 'location tolmouth' });
    expect(why['picture.frameCap'].from).toBe('our default');
    expect(why['security.secondFactorTimeoutS']).toEqual({ value: 30, from: 'organisation' });
  });
});
