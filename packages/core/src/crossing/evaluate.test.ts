import { describe, expect, test } from '@jest/globals';
import { measured, of, on } from '../../test/judged.js';
import { reached, small, trips, type Otherwise } from '../../test/small.js';
import { isEmpty } from '../change/index.js';
import { burden } from './effect.js';
import { computeFigures, evaluateCrossing, figuresAfter, summariseCrossing } from './index.js';

const whole = (otherwise: Otherwise = {}) => small({ ...otherwise, endpoint: { ...on.endpoint, ...(otherwise.endpoint ?? {}) } });
/** Crossings that are wrong in one thing or several. */
const wrong: Record<string, Otherwise> = {
  'nothing wrong': {},
  'a slow way': measured({ roundTrips: trips(300) }),
  'a narrow line': { location: { downMbps: 1.2 } },
  'one that loses': measured({ datagrams: { passes: true, sent: 2000, lost: 60 } }),
  'a certificate that ended': {
    gateway: { certificate: { names: ['gate.example'], notBefore: '2025-01-01', notAfter: '2026-01-01', trust: 'public' } },
  },
  'a rate nobody knows': { location: { downMbps: undefined } },
  'a host that sleeps, far away, over a slow way': {
    ...measured({ roundTrips: trips(200) }),
    host: { power: 'asleep', drawMs: 90 },
  },
  'a stick that a setting keeps out, and a camera': {
    endpoint: { ...on.endpoint, peripherals: ['storage', 'camera'] },
    settings: { 'redirection.drives': 'none', 'redirection.devices': ['storage', 'camera'], 'redirection.camera': 'not' },
  },
  'mobile, in the hours of the neighbourhood': {
    location: { lineKind: '4g', downMbps: 3.2 },
    measured: { ...reached, roundTrips: trips(60) },
  },
};

describe.each(Object.entries(wrong))('%s', (_, otherwise) => {
  const facts = whole(otherwise);
  const evaluation = evaluateCrossing(facts);
  const { figures, findings } = evaluation;
  const summary = summariseCrossing(facts);

  test('its summary says what its evaluation says', () => {
    const told = findings.flatMap(({ text, consequences }) => [text, ...consequences]);
    expect(summary.kinds).toHaveLength(told.length);
    expect(summary.kinds.filter((kind) => findings.some((finding) => finding.kind === kind))).toEqual(findings.map(({ kind }) => kind));
    expect(summary).toMatchObject({
      ...{ verdict: figures.verdict, delayMs: figures.delay.value, frameRate: figures.frames.value, burden: burden(figures) },
      ...{ firstBroken: figures.broken?.name ?? null, meanMbps: figures.demand.meanMbps, timeToUsableS: figures.timeline.totalS },
      ...{ mos: figures.voice.heard?.mos ?? null, settles: figures.verdict === 'unknown' ? figures.missing[0] : null },
    });
    const decides = findings.filter(({ weight }) => weight !== 'risk');
    expect(summary.bay).toBe(figures.verdict === 'clear' ? null : (decides[0]?.bay ?? null));
  });
  test('findings come dearest first, each with its evidence', () => {
    expect(findings.map(({ cost }) => cost)).toEqual(findings.map(({ cost }) => cost).sort((a, b) => b - a));
    for (const { evidence } of findings) expect(evidence.length).toBeGreaterThan(0);
  });
  test('each remedy does what it says, and helps; the better verdict first, then a setting, then a record, then other people’s work', () => {
    for (const { remedies } of findings) {
      for (const { change, effect, applicable } of remedies) {
        if (!effect) {
          expect(isEmpty(change) || figuresAfter(facts, change) === null).toBe(true);
          expect(applicable).toBe(false);
          continue;
        }
        const after = figuresAfter(facts, change)!;
        expect([effect.becomes, effect.helps]).toEqual([after.verdict, true]);
        expect(effect.gain).toBeCloseTo(burden(figures) - burden(after), 6);
      }
      const sort = remedies.map(({ effect, applicable, change }) =>
        effect
          ? ['clear', 'unknown', 'limited', 'blocked'].indexOf(effect.becomes) * 10 +
            (!applicable ? 2 : change.patches.every((patch) => patch.do === 'setting') ? 0 : 1)
          : 50,
      );
      expect(sort).toEqual([...sort].sort((a, b) => a - b));
      for (let i = 1; i < remedies.length; i++)
        if (sort[i] === sort[i - 1]) expect(remedies[i - 1]!.effect?.gain ?? 0).toBeGreaterThanOrEqual(remedies[i]!.effect?.gain ?? 0);
    }
  });
});

describe('what is told of a crossing as a whole', () => {
  test('the bay of what decides and costs most; of what only may go wrong none', () => {
    expect(summariseCrossing(whole(wrong['a slow way']!)).bay).toBe('Link');
    expect(summariseCrossing(whole(wrong['a certificate that ended']!)).bay).toBe('Gateway');
    expect(summariseCrossing(whole(wrong['nothing wrong']!))).toMatchObject({ bay: null, kinds: [], settles: null });
  });
  test('what is not known and decides comes before what only limits or may go wrong', () => {
    const { findings, figures } = of({ gateway: { certificate: undefined } });
    expect([figures.verdict, findings[0]?.weight]).toEqual(['unknown', 'unknown']);
  });
  test('what is short and explained by nothing else is told by the kind that stands for the rest', () => {
    for (const otherwise of Object.values(wrong)) {
      const { figures, findings } = of(otherwise);
      if (figures.verdict === 'limited') expect(findings.some(({ weight }) => weight === 'limited')).toBe(true);
      if (figures.verdict === 'clear') expect(findings.every(({ weight }) => weight === 'risk')).toBe(true);
    }
  });
});

describe('the hour in which it is at its worst', () => {
  const hour = (otherwise: Otherwise) => summariseCrossing(whole(otherwise)).worstHour;
  const mobile = { lineKind: '4g', downMbps: 3.2 };
  const limited = measured({ roundTrips: trips(300) });
  test('of what is Clear, or does not open, there is none', () => {
    expect([hour({}), hour(wrong['a certificate that ended']!)]).toEqual([null, null]);
  });
  test('on a line of one’s own that is no part of a neighbourhood no hour is worse', () => {
    expect(hour(limited)).toBeNull();
    expect(hour({ location: { downMbps: 1.2, sharedBy: 1 } })).toBeNull();
  });
  test('of a neighbourhood: the last hour of work, or that of others on the line', () => {
    expect(hour({ ...limited, location: mobile })).toBe(computeFigures(whole({ ...limited, location: mobile })).way.rttHour);
    expect(hour({ ...limited, location: mobile })).toBe(17);
    const shared = { downMbps: 20, sharedBy: 60, activeShare: 0.5 };
    expect(hour({ location: shared })).toBe(computeFigures(whole({ location: shared })).way.hour);
    expect(hour({ location: shared })).not.toBe(17);
  });
  test('where as many work around the clock none is, but on a line of the neighbourhood', () => {
    const always = { worksFrom: '00:00', worksTo: '00:00' };
    expect(hour({ location: { downMbps: 20, sharedBy: 60, activeShare: 0.5, ...always } })).toBeNull();
    expect(hour({ location: { ...mobile, sharedBy: 60, activeShare: 0.5, ...always } })).toBe(19);
    // of a rate that nobody knows the round trip’s
    expect(hour({ ...limited, location: { ...mobile, downMbps: undefined, sharedBy: 60 } })).toBe(17);
  });
});

describe('what a finding costs', () => {
  const weighed = (key: string, times: number, otherwise: Otherwise) => {
    const of = (assumed: Record<string, number>) =>
      evaluateCrossing(whole({ ...otherwise, more: { organisation: [organisation(assumed)] } })).findings;
    return [of({}), of({ [`finding/${key}`]: times })];
  };
  const organisation = (assumed: object) => ({ id: 'organisation', name: 'Ours', assumed });
  test.each<[string, Otherwise]>([
    ['limited', wrong['a slow way']!],
    ['blocked', wrong['a certificate that ended']!],
    ['unknown', wrong['a rate nobody knows']!],
  ])('%s: as many times as the estate weighs it', (weight, otherwise) => {
    const [before, after] = weighed(weight, 3, otherwise);
    const costs = (list: typeof before) => new Map(list!.map(({ kind, cost, weight: of }) => [kind, [of, cost] as const]));
    const now = costs(after);
    expect([...costs(before)].some(([, [of]]) => of === weight)).toBe(true);
    for (const [kind, [of, cost]] of costs(before)) expect([kind, now.get(kind)?.[1]]).toEqual([kind, of === weight ? cost * 3 : cost]);
  });
  test('what is missing comes before all else only where the verdict is that it is not known', () => {
    const cost = (otherwise: Otherwise) => of(otherwise).findings.find(({ weight }) => weight === 'unknown')?.cost ?? 0;
    const missing = { gateway: { certificate: undefined } };
    const both = { ...missing, ...measured({ roundTrips: trips(300) }) };
    expect(of(both).figures.verdict).toBe('limited');
    expect(cost(missing)).toBeGreaterThan(cost(both));
  });
});

describe('remedies', () => {
  const texts = (otherwise: Otherwise) => of(otherwise).findings.flatMap(({ remedies }) => remedies);
  test('what has to be asked of people follows what it does; what cannot be tried has that alone, and waits for work outside', () => {
    const all = Object.values(wrong).flatMap(texts);
    const asked = all.filter(({ effect }) => !effect);
    expect(asked.length).toBeGreaterThan(0);
    for (const { applicable } of asked) expect(applicable).toBe(false);
    for (const { effect, effectText } of all) {
      if (effect) expect(effectText.startsWith(effect.text)).toBe(true);
      expect(effectText).not.toMatch(/^; |; $/);
    }
  });

  const remedyOf = (otherwise: Otherwise, kind: string) => of(otherwise).findings.find((finding) => finding.kind === kind)?.remedies[0];
  test('what takes a risk away helps, though no figure gets better by it; what makes one worse does not', () => {
    expect(remedyOf({ endpoint: { defaultPassword: true } }, 'default password on the endpoint')).toEqual({
      ...{ text: 'Set a password of its own on the device', applicable: true, change: expect.anything() },
      effect: { text: '', helps: true, becomes: 'clear', gain: 0 },
      effectText: 'nothing changes for people, strangers stay out',
    });
  });
  test('what is done elsewhere says where it is written down afterwards', () => {
    const certificate = { names: ['gate.example'], notBefore: '2026-01-01', notAfter: '2026-12-01', trust: 'public' };
    expect(remedyOf({ gateway: { certificate } }, 'certificate ends soon')).toEqual({
      ...{ text: 'Renew the certificate of Gate', applicable: false, change: { patches: [], hypotheses: [] }, effect: null },
      ...{ effectText: 'nothing changes today, sign-in goes on afterwards', at: { kind: 'gateway', id: 'gate' } },
    });
  });
  test('what it does and what has to be asked stand one after the other', () => {
    const both = Object.values(wrong)
      .flatMap(texts)
      .filter(({ effect, effectText }) => effect?.text && effectText !== effect.text);
    expect(both.length).toBeGreaterThan(0);
    for (const { effect, effectText } of both) expect(effectText.slice(effect!.text.length)).toMatch(/^; \S/);
  });
});

test('the bay of what decides, and not of a risk that costs more', () => {
  const dear = { organisation: [{ id: 'organisation', name: 'Ours', assumed: { 'finding/risk': 100 } }] };
  const summary = summariseCrossing(whole({ ...wrong['a slow way'], gateway: { defaultCredentials: true }, more: dear as never }));
  expect([summary.bay, summary.kinds[0]]).toEqual(['Link', 'default credentials on the gateway']);
});
