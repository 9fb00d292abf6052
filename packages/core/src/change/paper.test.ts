import { describe, expect, test } from '@jest/globals';
import {
  completed,
  kindTraits,
  objectKinds,
  objectSchemas,
  referencesOf,
  type Change,
  type Estate,
  type ObjectKind,
  type Patch,
  type Setting,
} from '@underpass/contracts';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { changesOf, everyField } from '../../test/fields.js';
import { Alike, evaluateCrossing, FactsReader, summariseCrossing, touchedBy, type CrossingFacts } from '../crossing/index.js';
import { modelOf, type CrossingRef, type ObjectChange, type Supposition } from '../estate/index.js';
import { faultOfSetting } from '../settings/index.js';
import { doing, fieldsTo, made } from './index.js';

const { estate, measurements } = demoEstate();
const model = modelOf(estate, measurements, { complete: completed, traits: kindTraits });
const reader = new FactsReader(model, demoInstant);
const summaries = (from: FactsReader, refs: readonly CrossingRef[] = from.model.crossings, of = summariseCrossing) =>
  new Map(
    refs.map((ref) => {
      const facts = from.read(ref);
      return [ref.id, JSON.stringify(facts && of(facts))];
    }),
  );
/** As a server does it, for which those that are alike are one. */
const alikeAsOne = () => {
  const alike = new Alike((facts) => summariseCrossing(facts));
  return (facts: CrossingFacts) => alike.of(facts);
};
const before = summaries(reader);
/** Changes tried of each field; `CHANGES=5` goes deeper. */
const most = Number(process.env.CHANGES ?? 1);
const untouchedParts = process.env.CHANGES ? 1 : 4;

/** The estate with objects really written: as the server parses them, in another order, and everything built anew. */
function written(writes: readonly ObjectChange[], supposed: readonly Supposition[]): FactsReader {
  const next = { ...estate } as unknown as Record<string, { id: string }[]>;
  for (const { kind, id, after } of writes) {
    const others = next[kind]!.filter((object) => object.id !== id);
    next[kind] = after ? [objectSchemas[kind].parse(after) as { id: string }, ...others] : others;
  }
  const anew = modelOf(next as unknown as Estate, [...measurements].reverse());
  return new FactsReader(supposed.length ? anew.after({ supposed }) : anew, demoInstant);
}

let seed = 20_261_126;
/** A different place of a list each time, the same ones in every run [Park and Miller 1988]. */
const pick = (n: number): number => (seed = (seed * 48_271) % 2_147_483_647) % Math.max(1, n);

const one = <T>(list: readonly T[]): T => list[pick(list.length)] as T;

/** Kinds of which there can be one more or less; settings stand at their places, and a class of device is one of those there are. */
const many = objectKinds.filter(
  (kind) => kind !== 'organisation' && kind !== 'setting' && kind !== 'deviceClass' && estate[kind].length > 0,
);
const listOf = (kind: ObjectKind) => estate[kind] as { id: string }[];
function oneMore(kind: ObjectKind): Patch {
  const { id, ...like } = one(listOf(kind));
  return { do: 'create', kind, id: `${id}-more`, object: like };
}
/** Everything that names an object, and what names that. */
function without(kind: ObjectKind): Patch[] {
  // the smallest of a few, so that not the whole estate goes
  const tries = Array.from({ length: 6 }, () => goingWith(kind, one(listOf(kind)).id));
  const smallest = tries.reduce((a, b) => (b.size < a.size ? b : a));
  return [...smallest.values()].reverse();
}
function goingWith(kind: ObjectKind, id: string): Map<string, Patch> {
  const found = new Map<string, Patch>([[`${kind}/${id}`, { do: 'remove', kind, id }]]);
  for (let before = 0; before < found.size;) {
    before = found.size;
    for (const other of objectKinds)
      for (const object of listOf(other))
        if (referencesOf(other, object).some(({ to, id: named }) => found.has(`${to}/${named}`)))
          found.set(`${other}/${object.id}`, { do: 'remove', kind: other, id: object.id });
  }
  return found;
}
const names = (patch: Patch, gone: ReadonlySet<string | false>): boolean => {
  const value = patch.do === 'create' ? patch.object : patch.do === 'change' ? { ...patch.set } : {};
  return [...JSON.stringify(value).matchAll(/"([^"]+)"/g)].some(([, word]) => [...gone].some((key) => key && key.endsWith(`/${word}`)));
};
/** Values that others have, at one place each. */
function settingsAt(layer: Setting['layer']): Extract<Patch, { do: 'setting' }>[] {
  const target = (): string => {
    switch (layer) {
      case 'organisation':
        return '*';
      case 'device class':
        return one(estate.endpoint).deviceClass;
      default:
        return one(listOf(layer as ObjectKind)).id;
    }
  };
  const seen = new Set<string>();
  return Array.from({ length: 200 }, () => one(estate.setting)).flatMap(({ key, value }) => {
    const patch = { do: 'setting' as const, key, layer, target: target(), value };
    const fault = faultOfSetting('setting', { id: 'x', ...patch, locked: false });
    return fault || seen.has(key) ? [] : (seen.add(key), [patch]);
  });
}

/** The same for thousands of results: the matcher is asked only where they differ. */
function expectAlike(id: string, got: string | undefined, wanted: string | undefined): void {
  if (got !== wanted) expect([id, JSON.parse(got ?? 'null')]).toEqual([id, JSON.parse(wanted ?? 'null')]);
}

function expectSame(change: Change): void {
  const { all, supposed, misplaced } = made(model, change, demoInstant);
  expect(misplaced).toEqual([]);
  const paper = reader.after(change);
  const really = written(all, supposed);
  const { after: touched, come, gone } = touchedBy(reader, paper);
  const after = summaries(paper, touched, alikeAsOne());
  // of what is not touched another part each time; all of it where it is asked to go deeper
  const part = pick(untouchedParts);
  const looked = really.model.crossings.filter(({ id }, i) => after.has(id) || i % untouchedParts === part);
  const expected = summaries(really, looked);
  // what is touched is the same on paper, and what is not stays as it was
  for (const [id, summary] of after) expectAlike(id, summary, expected.get(id));
  for (const [id, summary] of expected) if (!after.has(id)) expectAlike(id, before.get(id), summary);
  const there = new Set(really.model.crossings.map(({ id }) => id));
  expect(paper.model.crossings.map(({ id }) => id).sort()).toEqual([...there].sort());
  expect(come.map(({ id }) => id).sort()).toEqual([...there].filter((id) => !before.has(id)).sort());
  expect(gone.map(({ id }) => id).sort()).toEqual([...before.keys()].filter((id) => !there.has(id)).sort());
  // the sentences, remedies and their effects too, on some of them
  for (let i = 0; i < 4 && touched.length; i++) {
    const ref = touched[pick(touched.length)]!;
    const [a, b] = [paper.read(ref), really.read(ref)];
    expect([ref.id, a && evaluateCrossing(a)]).toEqual([ref.id, b && evaluateCrossing(b)]);
  }
  // a server that goes on from there stands on the same
  const settled = paper.settledOn(paper.model.settled());
  const some = touched.filter((_, i) => i % 7 === 0);
  for (const ref of some) {
    const facts = settled.read(ref);
    expectAlike(ref.id, JSON.stringify(facts && summariseCrossing(facts)), expected.get(ref.id));
  }
}

describe('what is on paper is what is then so', () => {
  test.each(everyField)('$kind.$path', ({ kind, path }) => {
    const changes = changesOf(estate, kind, path, pick, most);
    expect(changes.length).toBeGreaterThan(0);
    for (const { id, set } of changes) expectSame(doing(fieldsTo(kind, id, set)));
  });

  test.each(many)('a %s more, like one there is', (kind) => {
    for (let i = 0; i < most; i++) expectSame(doing(oneMore(kind)));
  });
  test.each(many)('a %s less, and whatever names it', (kind) => {
    for (let i = 0; i < most; i++) expectSame(doing(...without(kind)));
  });
  test.each(['organisation', 'device class', 'location', 'group', 'person', 'endpoint'] as const)('a setting at a place: %s', (layer) => {
    for (const patch of settingsAt(layer).slice(0, 2 + most)) expectSame(doing(patch));
  });
  test('people moved between groups', () => {
    const groups = estate.group.map(({ id }) => id);
    for (let i = 0; i < 2 + most; i++) {
      const people = estate.person.filter(() => pick(40) === 0).map(({ id }) => id);
      expectSame(doing({ do: 'move', people: [estate.person[i]!.id, ...people], leave: null, join: one(groups) }));
      expectSame(doing({ do: 'move', leave: one(groups), join: one(groups) }));
    }
  });
  test.each(['endpoint', 'location', 'host', 'gateway', 'pool', 'resource'] as const)('what a hypothesis has otherwise of a %s', (kind) => {
    const { path } = one(everyField.filter((field) => field.kind === kind));
    for (const { id, set } of changesOf(estate, kind, path, pick, most))
      expectSame({ patches: [], hypotheses: [{ suppose: 'object', kind, id, set }] });
  });
  test('several steps of different sorts at once', () => {
    for (let i = 0; i < 6 * most; i++) {
      const fields = Array.from({ length: 3 }, () => one(everyField)).flatMap(({ kind, path }) =>
        changesOf(estate, kind, path, pick, 1).map(({ id, set }) => fieldsTo(kind, id, set)),
      );
      const gone = without(one(['endpoint', 'person', 'host'] as const));
      const removed = new Set(gone.map((patch) => 'id' in patch && `${patch.kind}/${patch.id}`));
      const kept = fields.filter((patch) => 'id' in patch && !removed.has(`${patch.kind}/${patch.id}`));
      // what is removed is named by nothing that is made or changed beside it
      const fresh = [oneMore(one(many)), ...kept].filter((patch) => !names(patch, removed));
      expectSame({
        patches: [...fresh, ...gone, one(settingsAt('organisation'))],
        hypotheses: [{ suppose: 'line', kind: 'location', id: one(estate.location).id, roundTripMs: 60 }],
      });
    }
  });
});
