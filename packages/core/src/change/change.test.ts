import { describe, expect, test } from '@jest/globals';
import {
  Change as ChangeSchema,
  completed,
  kindTraits,
  type Change,
  type Measurement,
  type ObjectKind,
  type Patch,
} from '@underpass/contracts';
import fc from 'fast-check';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { FactsReader } from '../crossing/index.js';
import { modelOf, same, type EstateModel } from '../estate/index.js';
import { combine, compare, doing, fieldAt, fieldsTo, inverseOf, made, overlay, rebase, stepsOf, supposing, withField } from './index.js';

const { estate, measurements } = demoEstate();
const model = modelOf(estate, measurements, { complete: completed, traits: kindTraits });
const at = demoInstant;

const ids = (kind: ObjectKind, n = 6) => fc.constantFrom(...(estate[kind] as { id: string }[]).slice(0, n).map(({ id }) => id));
const group = ids('group', 8);
/** Steps of every sort on few objects, so that they meet; no screens or decoders, which are stamped with the time they are typed. */
const anyPatch: fc.Arbitrary<Patch> = fc.oneof(
  fc.record({ id: ids('host', 3), drawMs: fc.integer({ min: 1, max: 90 }) }).map(({ id, drawMs }) => fieldsTo('host', id, { drawMs })),
  fc
    .record({ id: ids('host', 3), mode: fc.constantFrom('compute', 'display') })
    .map(({ id, mode }) => fieldsTo('host', id, { 'graphics.mode': mode })),
  fc.record({ id: ids('host', 3), used: fc.option(fc.nat(9), { nil: null }) }).map(({ id, used }) => fieldsTo('host', id, { used })),
  fc
    .record({ id: ids('person', 4), groups: fc.uniqueArray(group, { maxLength: 3 }) })
    .map(({ id, groups }) => fieldsTo('person', id, { groups })),
  fc
    .record({
      id: ids('person', 4),
      add: fc.uniqueArray(group, { minLength: 1, maxLength: 2 }),
      drop: fc.uniqueArray(group, { minLength: 1, maxLength: 2 }),
    })
    .map(({ id, add, drop }): Patch => ({ do: 'change', kind: 'person', id, add: { groups: add }, drop: { groups: drop } })),
  fc
    .record({ people: fc.uniqueArray(ids('person', 4), { minLength: 1 }), leave: fc.option(group), join: fc.option(group) })
    .map((move): Patch => ({ do: 'move', ...move })),
  fc
    .record({ target: ids('location', 3), value: fc.constantFrom(15, 24, 30) })
    .map(({ target, value }): Patch => ({ do: 'setting', key: 'picture.frameCap', layer: 'location', target, value })),
  fc
    .record({ target: ids('location', 3), value: fc.uniqueArray(fc.constantFrom('camera', 'printer', 'storage'), { minLength: 1 }) })
    .map(({ target, value }): Patch => ({ do: 'setting', key: 'redirection.devices', layer: 'location', target, value })),
  fc
    .constantFrom('new-a', 'new-b')
    .map((id): Patch => ({ do: 'create', kind: 'region', id, object: { id, name: id, latitude: 1, longitude: 2 } })),
  fc.constantFrom('new-a', 'new-b', 'far').map((id): Patch => ({ do: 'remove', kind: 'region', id })),
  fc
    .record({ id: fc.constantFrom('new-a', 'far'), latitude: fc.integer({ min: 1, max: 60 }) })
    .map(({ id, latitude }) => fieldsTo('region', id, { latitude })),
);
const anyChange = fc.array(anyPatch, { maxLength: 6 }).map((patches): Change => doing(...patches));
const state = (of: EstateModel) =>
  Object.fromEntries(
    (['host', 'person', 'setting', 'region'] as const).map((kind) => [
      kind,
      [...of.all(kind).values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
    ]),
  );

describe('changes', () => {
  test('two as one do what they do one after the other', () => {
    fc.assert(
      fc.property(anyChange, anyChange, (first, second) => {
        const apart = overlay(overlay(model, first, at), second, at);
        expect(state(overlay(model, combine(first, second), at))).toEqual(state(apart));
      }),
      { numRuns: 400 },
    );
  });

  test('together they are no longer than what they do: a thing set twice is set once, and what is taken away is not set before', () => {
    const set = (drawMs: number) => doing(fieldsTo('host', 'SM-H05', { drawMs }));
    expect(combine(set(10), set(20)).patches).toEqual(set(20).patches);
    expect(combine(set(10), doing({ do: 'remove', kind: 'host', id: 'SM-H05' })).patches).toEqual([
      { do: 'remove', kind: 'host', id: 'SM-H05' },
    ]);
    expect(combine(supposing({ suppose: 'drawing', endpoint: 'e', by: 'graphics' }), set(1)).hypotheses).toHaveLength(1);
  });

  test('the steps that lead from before to after do so exactly, and their inverse leads back', () => {
    fc.assert(
      fc.property(anyChange, (change) => {
        const { writes } = made(model, change, at);
        const after = model.after({ writes });
        const again = made(model, doing(...stepsOf(writes)), at);
        expect(state(model.after({ writes: again.writes }))).toEqual(state(after));
        const back = made(after, doing(...inverseOf(writes)), at);
        expect(back.misplaced).toEqual([]);
        expect(state(after.after({ writes: back.writes }))).toEqual(state(model));
      }),
      { numRuns: 300 },
    );
  });

  test('taken back after something else it leaves the other thing standing, or tells where the two meet', () => {
    fc.assert(
      fc.property(anyChange, anyChange, (first, second) => {
        const written = made(model, first, at).writes;
        const between = model.after({ writes: written });
        const now = overlay(between, second, at);
        const { change, conflicts } = rebase(now, doing(...inverseOf(written)));
        if (conflicts.length) return;
        // what the second did not touch is as if it alone had been made
        const result = overlay(now, change, at);
        const alone = overlay(model, second, at);
        const both = new Set(
          [...made(between, second, at).writes, ...made(model, second, at).writes].map(({ kind, id }) => `${kind}/${id}`),
        );
        for (const { kind, id } of written) {
          if (both.has(`${kind}/${id}`)) continue;
          const [a, b] = [result.find(kind, id), alone.find(kind, id)];
          expect([kind, id, a]).toEqual([kind, id, b]);
        }
      }),
      { numRuns: 300 },
    );
  });

  test('on a newer estate what stands already is left out, and what somebody changed is a conflict with all three values', () => {
    const host = model.hosts.get('SM-H05')!;
    const change = doing({
      ...fieldsTo('host', 'SM-H05', { drawMs: 12, places: 99 }),
      was: { drawMs: host.drawMs ?? null, places: host.places },
    } as Patch);
    expect(rebase(model, change)).toMatchObject({ conflicts: [], done: 0 });
    const newer = overlay(model, doing(fieldsTo('host', 'SM-H05', { drawMs: 40 })), at);
    expect(rebase(newer, change).conflicts).toEqual([
      { kind: 'host', id: 'SM-H05', field: 'drawMs', because: 'changed since', was: host.drawMs, now: 40, wanted: 12 },
    ]);
    const done = overlay(model, change, at);
    expect(rebase(done, change)).toEqual({ change: { patches: [], hypotheses: [] }, conflicts: [], done: 2 });
    const gone = overlay(model, doing({ do: 'remove', kind: 'host', id: 'SM-H05' }), at);
    expect(rebase(gone, change).conflicts).toMatchObject([{ kind: 'host', id: 'SM-H05', because: 'gone' }]);
    expect(rebase(model, supposing({ suppose: 'line', kind: 'location', id: 'atlantis', downMbps: 1 })).conflicts).toMatchObject([
      { because: 'gone' },
    ]);
    // a list that others added to is no conflict for whoever adds to it
    const add = doing({ do: 'change', kind: 'person', id: 'P001', add: { groups: ['posters'] } });
    const others = overlay(model, doing({ do: 'change', kind: 'person', id: 'P001', add: { groups: ['regatta'] } }), at);
    expect(rebase(others, add).conflicts).toEqual([]);
    expect(overlay(others, rebase(others, add).change, at).people.get('P001')?.groups).toEqual(
      expect.arrayContaining(['posters', 'regatta']),
    );
  });

  test('two beside each other show every field that either moves, and where they agree', () => {
    const rows = compare(
      model,
      doing(fieldsTo('host', 'SM-H05', { drawMs: 12, places: 50 })),
      doing(fieldsTo('host', 'SM-H05', { drawMs: 12 })),
      at,
    );
    const { drawMs, places } = model.hosts.get('SM-H05')!;
    expect(rows).toEqual([
      { kind: 'host', id: 'SM-H05', field: 'drawMs', now: drawMs, first: 12, second: 12, alike: true },
      { kind: 'host', id: 'SM-H05', field: 'places', now: places, first: 50, second: places, alike: false },
    ]);
    fc.assert(
      fc.property(anyChange, anyChange, (first, second) => {
        const [a, b] = [overlay(model, first, at), overlay(model, second, at)];
        const alike = compare(model, first, second, at).every((row) => row.alike);
        expect(same(state(a), state(b))).toBe(alike);
      }),
      { numRuns: 200 },
    );
  });

  test('go through JSON and the schema of what comes in unchanged', () => {
    fc.assert(
      fc.property(anyChange, (change) => {
        expect(ChangeSchema.parse(JSON.parse(JSON.stringify(change)))).toEqual(JSON.parse(JSON.stringify(change)));
      }),
    );
  });

  test('what has no place is told by its step, and the rest is made', () => {
    const { writes, misplaced } = made(
      model,
      {
        patches: [
          fieldsTo('host', 'nobody', { drawMs: 1 }),
          fieldsTo('host', 'SM-H05', { drawMs: 1 }),
          { do: 'create', kind: 'region', id: 'far', object: {} },
        ],
        hypotheses: [{ suppose: 'object', kind: 'host', id: 'nowhere', set: { places: 1 } }],
      },
      at,
    );
    expect(writes.map(({ id }) => id)).toEqual(['SM-H05']);
    expect(misplaced).toEqual([
      { step: 0, hypothesis: false, kind: 'host', id: 'nobody', because: 'not there' },
      { step: 2, hypothesis: false, kind: 'region', id: 'far', because: 'there already' },
      { step: 0, hypothesis: true, kind: 'host', id: 'nowhere', because: 'not there' },
    ]);
  });
});

describe('what is typed and what is measured', () => {
  test('screens typed now replace what was measured before; what is measured later replaces them again', () => {
    const endpoint = [...model.endpoints.values()][0]!;
    const taken = (id: string, when: string, widthPx: number, heightPx: number): Measurement => ({
      id,
      at: when,
      by: 'x',
      method: 'field check',
      vantage: 'desk',
      endpoint: endpoint.id,
      location: endpoint.location,
      partial: false,
      figures: { screens: [{ widthPx, heightPx, scale: 1 }] },
    });
    const reader = new FactsReader(model.after({ measurements: [taken('earlier', '2026-11-24T10:00:00Z', 1920, 1080)] }), at);
    const [ref] = model.crossingsOn(endpoint);
    expect(reader.read(ref!)?.evidence.screens?.value[0]?.widthPx).toBe(1920);
    const typed = reader.after(doing(fieldsTo('endpoint', endpoint.id, { screens: [{ widthPx: 1280, heightPx: 720, scale: 1 }] })));
    expect(typed.model.endpoints.get(endpoint.id)?.screensAt).toBe('2026-11-25T10:00:00Z');
    expect(typed.read(ref!)?.evidence.screens).toBeUndefined();
    const again = typed.over(typed.model.after({ measurements: [taken('later', '2026-11-25T10:00:01Z', 3840, 2160)] }));
    expect(again.read(ref!)?.evidence.screens?.value).toEqual([{ widthPx: 3840, heightPx: 2160, scale: 1 }]);
    // written as they were, nothing is typed anew
    expect(
      made(model, doing(fieldsTo('endpoint', endpoint.id, { screens: [...(endpoint.screens ?? [])], name: 'Another' })), at).writes[0]
        ?.after,
    ).not.toHaveProperty('screensAt', '2026-11-25T10:00:00Z');
  });

  test('fields by path are read, written and taken away without touching the object given', () => {
    const object = { a: { b: 1, c: [1] }, d: 2 };
    expect(fieldAt(object, 'a.b')).toBe(1);
    expect(fieldAt(object, 'a.x.y')).toBeUndefined();
    expect(withField(object, 'a.b', 5)).toEqual({ a: { b: 5, c: [1] }, d: 2 });
    expect(withField(object, 'a.b', null)).toEqual({ a: { c: [1] }, d: 2 });
    expect(withField(object, 'a.c.x', 5)).toEqual({ a: { b: 1, c: { x: 5 } }, d: 2 });
    expect(object).toEqual({ a: { b: 1, c: [1] }, d: 2 });
  });
});
