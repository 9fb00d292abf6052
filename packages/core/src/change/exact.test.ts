import { describe, expect, test } from '@jest/globals';
import type { Change, Patch } from '@underpass/contracts';
import { twoPlaces } from '../../test/twoPlaces.js';
import {
  asIf,
  combine,
  doing,
  fieldsTo,
  inverseOf,
  isApplicable,
  isEmpty,
  made,
  noChange,
  overlay,
  rebase,
  settingAt,
  settingTo,
  stepsOf,
  supposing,
} from './index.js';

/*
 * Steps on few objects and what they come to, exactly: the properties of change.test.ts hold for whatever comes out the same, and so
 * say nothing of how short it is or what is told beside it.
 */
const model = twoPlaces();
const host = (set: Record<string, unknown>, more: object = {}): Patch => ({ ...fieldsTo('host', 'host-a', set), ...more }) as Patch;
const lists = (add: string[], drop: string[] = []): Patch => ({
  do: 'change',
  kind: 'person',
  id: 'ann-a',
  ...(add.length ? { add: { groups: add } } : {}),
  ...(drop.length ? { drop: { groups: drop } } : {}),
});
const cap = (value: number, more: object = {}): Patch =>
  ({ ...settingTo('picture.frameCap', 'location', 'hall-a', value), ...more }) as Patch;
const devices = (...value: string[]): Patch => settingTo('redirection.devices', 'location', 'hall-a', value);
const remove: Patch = { do: 'remove', kind: 'host', id: 'host-a' };
const move: Patch = { do: 'move', leave: 'staff-a', join: null };
const both = (...patches: Patch[]) => combine(doing(patches[0]!), doing(...patches.slice(1))).patches;

describe('what a change is', () => {
  test('empty, applicable, or waiting for work outside', () => {
    const outside = asIf('host', 'host-a', { places: 3 });
    expect(outside).toEqual({ patches: [], hypotheses: [{ suppose: 'object', kind: 'host', id: 'host-a', set: { places: 3 } }] });
    const kinds = [noChange, doing(remove), outside, { patches: [remove], hypotheses: outside.hypotheses }];
    expect(kinds.map(isEmpty)).toEqual([true, false, false, false]);
    expect(kinds.map(isApplicable)).toEqual([false, true, false, false]);
  });
});

describe('two steps as one', () => {
  test('fields of one object are set once, with what stood there before the first', () => {
    expect(both(host({ drawMs: 1 }, { was: { drawMs: 8 } }), host({ drawMs: 2, places: 3 }, { was: { drawMs: 1, places: 9 } }))).toEqual([
      host({ drawMs: 2, places: 3 }, { was: { drawMs: 8, places: 9 } }),
    ]);
    expect(both(host({ drawMs: 1 }), fieldsTo('host', 'host-b', { drawMs: 1 }))).toHaveLength(2);
    expect(both(host({ drawMs: 1 }), fieldsTo('pool', 'host-a', { spareHosts: 1 }))).toHaveLength(2);
  });

  test('entries of a list: what is taken out again is not put in, and each stands once', () => {
    expect(both(lists(['x', 'y']), lists(['y', 'z'], ['x']))).toEqual([lists(['y', 'z'], ['x'])]);
    expect(both(lists([], ['x']), lists(['x']))).toEqual([lists(['x'], ['x'])]);
    expect(both(lists(['x']), lists([], ['x']))).toEqual([lists([], ['x'])]);
  });

  test('where their order matters they stay two: a list written whole beside its entries, a field beside the whole it stands in', () => {
    const whole = fieldsTo('person', 'ann-a', { groups: ['q'] });
    for (const [first, second] of [
      [whole, lists(['x'])],
      [lists(['x']), whole],
      [lists([], ['x']), whole],
      [whole, lists([], ['x'])],
      [host({ graphics: { card: true } }), host({ 'graphics.card': false })],
      [host({ 'graphics.card': true }), host({ graphics: { card: false } })],
    ] as [Patch, Patch][])
      expect(both(first, second)).toEqual([first, second]);
    // a name that only begins alike is another field
    expect(both(host({ 'graphics.card': true }), host({ 'graphics.cardinal': 1 }))).toHaveLength(1);
    expect(both(host({ graphics: {} }), host({ graphics: { card: true } }))).toEqual([host({ graphics: { card: true } })]);
  });

  test('settings: the later value with what stood before the first; lists are joined; a list and a plain value stay two', () => {
    expect(both(cap(20, { was: 30 }), cap(15, { was: 20 }))).toEqual([cap(15, { was: 30 })]);
    expect(both(cap(20), cap(15, { was: 20 }))).toEqual([cap(15, { was: 20 })]);
    expect(both(devices('camera', 'storage'), devices('storage', 'printer'))).toEqual([devices('camera', 'storage', 'printer')]);
    const plain = settingTo('redirection.devices', 'location', 'hall-a', 'none');
    expect(both(devices('camera'), plain)).toEqual([devices('camera'), plain]);
    expect(both(plain, devices('camera'))).toEqual([plain, devices('camera')]);
    for (const other of [
      settingTo('picture.frameCap', 'location', 'hall-b', 15),
      settingTo('picture.frameCap', 'endpoint', 'hall-a', 15),
      settingTo('picture.codec', 'location', 'hall-a', 'hevc'),
    ])
      expect(both(cap(20), other)).toEqual([cap(20), other]);
  });

  test('what is removed is not changed before; what is created stays as it is', () => {
    expect(both(host({ drawMs: 1 }), remove)).toEqual([remove]);
    const create: Patch = { do: 'create', kind: 'host', id: 'host-a', object: {} };
    expect(both(create, remove)).toEqual([create, remove]);
    expect(both(create, host({ drawMs: 1 }))).toEqual([create, host({ drawMs: 1 })]);
    expect(both(remove, create)).toEqual([remove, create]);
  });

  test('a move of people, and an entry named both ways, stand between two steps', () => {
    const entry = fieldsTo('setting', 'one', { value: 3 });
    expect(both(lists(['x']), move, lists(['y']))).toEqual([lists(['x']), move, lists(['y'])]);
    expect(both(move, move)).toEqual([move, move]);
    expect(both(cap(20), entry, cap(15))).toEqual([cap(20), entry, cap(15)]);
    expect(both(entry, cap(20), fieldsTo('setting', 'one', { value: 4 }))).toHaveLength(3);
    expect(both(cap(20), host({ drawMs: 1 }), cap(15))).toEqual([cap(15), host({ drawMs: 1 })]);
    // after what stands between them they come together again
    expect(both(move, lists(['x']), lists(['y']))).toEqual([move, lists(['x', 'y'])]);
  });

  test('what is supposed is kept of both', () => {
    const [first, second] = [supposing({ suppose: 'drawing', endpoint: 'box-a', by: 'graphics' }), asIf('host', 'host-a', { places: 3 })];
    expect(combine(first, second)).toEqual({ patches: [], hypotheses: [...first.hypotheses, ...second.hypotheses] });
  });
});

describe('on a newer estate', () => {
  const now = model.hosts.get('host-a')!;
  const on = (...patches: Patch[]) => rebase(model, doing(...patches));
  const told = (...patches: Patch[]) =>
    on(...patches).conflicts.map(({ kind, id, field, because }) => `${kind} ${id} ${field}: ${because}`);

  test('what is created: once; there alike it is done, there otherwise a conflict', () => {
    const create = (id: string, object: object): Patch => ({ do: 'create', kind: 'host', id, object });
    expect(on(create('new', { a: 1 }))).toEqual({ change: doing(create('new', { a: 1 })), conflicts: [], done: 0 });
    expect(on(create('host-a', now))).toEqual({ change: noChange, conflicts: [], done: 1 });
    const other = create('host-a', { ...now, places: 1 });
    expect(on(other)).toEqual({
      change: doing(other),
      conflicts: [
        { kind: 'host', id: 'host-a', field: null, because: 'there already', was: undefined, now, wanted: { ...now, places: 1 } },
      ],
      done: 0,
    });
  });

  test('what is removed: gone it is done; another than it was it is a conflict; what stands now is kept with it', () => {
    expect(on({ do: 'remove', kind: 'host', id: 'nobody' })).toEqual({ change: noChange, conflicts: [], done: 1 });
    expect(on(remove)).toEqual({ change: doing({ ...remove, was: now } as Patch), conflicts: [], done: 0 });
    expect(on({ ...remove, was: now } as Patch).conflicts).toEqual([]);
    const was = { ...now, places: 1 };
    expect(on({ ...remove, was } as Patch)).toEqual({
      change: doing({ ...remove, was: now } as Patch),
      conflicts: [{ kind: 'host', id: 'host-a', field: null, because: 'changed since', was, now, wanted: undefined }],
      done: 0,
    });
  });

  test('a setting: there it is done, also as part of a list; another than it was it is a conflict', () => {
    const set = overlay(model, doing(cap(20), devices('camera', 'storage')), 0).settled();
    const at = (patch: Patch) => rebase(set, doing(patch));
    expect(at(cap(20))).toEqual({ change: noChange, conflicts: [], done: 1 });
    expect(at(devices('storage'))).toEqual({ change: noChange, conflicts: [], done: 1 });
    expect(at(devices('storage', 'printer')).done).toBe(0);
    expect(at(cap(15))).toEqual({ change: doing(cap(15, { was: 20 })), conflicts: [], done: 0 });
    expect(at(cap(15, { was: 20 })).conflicts).toEqual([]);
    const entry = settingAt(set, { key: 'picture.frameCap', layer: 'location', target: 'hall-a' })!;
    expect(at(cap(15, { was: 30 })).conflicts).toEqual([
      { kind: 'setting', id: entry.id, field: 'value', because: 'changed since', was: 30, now: 20, wanted: 15 },
    ]);
    // where none stands
    expect(on(cap(15))).toEqual({ change: doing(cap(15, { was: null })), conflicts: [], done: 0 });
    expect(told(cap(15, { was: 30 }))).toEqual(['setting picture.frameCap value: changed since']);
    expect(told(cap(15, { was: null }))).toEqual([]);
  });

  test('a move of people: of groups and people who are gone it is told', () => {
    expect(told(move)).toEqual([]);
    expect(on(move).change).toEqual(doing(move));
    expect(told({ do: 'move', leave: 'gone', join: 'away', people: ['ann-a', 'nobody'] })).toEqual([
      'group gone null: gone',
      'group away null: gone',
      'person nobody null: gone',
    ]);
    expect(told({ do: 'move', leave: null, join: 'staff-b', people: ['ann-a'] })).toEqual([]);
  });

  test('fields and entries: what stands is done, the rest is left with what stands now beside it', () => {
    expect(on(host({ drawMs: 8, places: 3 }))).toEqual({
      change: doing(host({ places: 3 }, { was: { places: 9 } })),
      conflicts: [],
      done: 1,
    });
    expect(on(host({ release: null }))).toEqual({ change: noChange, conflicts: [], done: 1 });
    expect(on(host({ release: '9' })).change.patches).toEqual([host({ release: '9' }, { was: { release: null } })]);
    expect(on(lists(['staff-a', 'staff-b'], ['gone']))).toEqual({ change: doing(lists(['staff-b'])), conflicts: [], done: 2 });
    expect(on(lists([], ['staff-a']))).toEqual({ change: doing(lists([], ['staff-a'])), conflicts: [], done: 0 });
    expect(told(host({ places: 3 }, { was: { drawMs: 1 } }))).toEqual([]);
    expect(told(host({ places: 3, drawMs: 1 }, { was: { places: 5, drawMs: 8 } }))).toEqual(['host host-a places: changed since']);
    expect(told(fieldsTo('host', 'nobody', { places: 1 }))).toEqual(['host nobody null: gone']);
    expect(on(fieldsTo('host', 'nobody', { places: 1 })).change.patches).toHaveLength(1);
    // into a list that is not there
    expect(on({ do: 'change', kind: 'host', id: 'host-a', add: { installed: ['x'] } })).toMatchObject({ conflicts: [], done: 0 });
    expect(on({ do: 'change', kind: 'host', id: 'host-a', drop: { installed: ['x'] } })).toEqual({
      change: noChange,
      conflicts: [],
      done: 1,
    });
  });

  test('what is supposed of something that is gone is told, and stays', () => {
    const change: Change = {
      patches: [],
      hypotheses: [
        { suppose: 'drawing', endpoint: 'nobody', by: 'graphics' },
        { suppose: 'drawing', endpoint: 'box-a', by: 'graphics' },
        { suppose: 'line', kind: 'location', id: 'nowhere', downMbps: 1 },
      ],
    };
    const { conflicts, change: left } = rebase(model, change);
    expect(conflicts.map(({ kind, id }) => `${kind} ${id}`)).toEqual(['endpoint nobody', 'location nowhere']);
    expect(left).toEqual(change);
  });
});

describe('steps between two states', () => {
  const before = { id: 'x', name: 'A', list: ['a', 'b'], inner: { n: 1 } };
  const step = (after: object | null) => stepsOf([{ kind: 'host', id: 'x', before, after }]);

  test('are the fields that differ, with what was; lists as what is added and taken out while their order holds', () => {
    expect(step({ ...before, name: 'B', list: ['b', 'c'], more: 1 })).toEqual([
      {
        do: 'change',
        kind: 'host',
        id: 'x',
        set: { name: 'B', more: 1 },
        was: { name: 'A', more: null },
        add: { list: ['c'] },
        drop: { list: ['a'] },
      },
    ]);
    expect(step({ id: 'x', name: 'A', inner: { n: 1 } })).toEqual([
      { do: 'change', kind: 'host', id: 'x', set: { list: null }, was: { list: ['a', 'b'] } },
    ]);
    expect(step({ ...before, list: ['b', 'a'] })).toEqual([
      { do: 'change', kind: 'host', id: 'x', set: { list: ['b', 'a'] }, was: { list: ['a', 'b'] } },
    ]);
    // entries that are no plain texts, or stand twice, are written whole
    expect(step({ ...before, list: ['a', 'b', 'b'] })[0]).toMatchObject({ set: { list: ['a', 'b', 'b'] } });
    expect(step({ ...before, list: ['a', 3] })[0]).toMatchObject({ set: { list: ['a', 3] } });
    expect(step({ ...before, list: ['a', 'b', 'c'] })).toEqual([{ do: 'change', kind: 'host', id: 'x', add: { list: ['c'] } }]);
    expect(step({ ...before })).toEqual([]);
  });

  test('make and remove whole objects, and back in the order turned round', () => {
    expect(step(null)).toEqual([{ do: 'remove', kind: 'host', id: 'x', was: before }]);
    expect(stepsOf([{ kind: 'host', id: 'x', before: null, after: before }])).toEqual([
      { do: 'create', kind: 'host', id: 'x', object: before },
    ]);
    expect(stepsOf([{ kind: 'host', id: 'x', before: null, after: null }])).toEqual([]);
    const back = inverseOf([
      { kind: 'host', id: 'x', before, after: { ...before, name: 'B' } },
      { kind: 'host', id: 'y', before: null, after: before },
    ]);
    expect(back).toEqual([
      { do: 'remove', kind: 'host', id: 'y', was: before },
      { do: 'change', kind: 'host', id: 'x', set: { name: 'A' }, was: { name: 'B' } },
    ]);
  });
});

describe('what a change comes to', () => {
  const at = Date.parse('2026-11-25T10:00:00.250Z');
  const making = (...patches: Patch[]) => made(model, doing(...patches), at);

  test('the objects it writes, before and after; what comes out as it was is not written', () => {
    const { writes, all } = making(host({ drawMs: 9 }), host({ places: 3 }));
    const before = model.hosts.get('host-a')!;
    expect(writes).toEqual([{ kind: 'host', id: 'host-a', before, after: { ...before, drawMs: 9, places: 3 } }]);
    expect(all).toEqual(writes);
    expect(making(lists(['staff-a'], ['gone'])).writes).toEqual([]);
    expect(making(lists(['staff-b', 'staff-b'])).writes[0]?.after).toMatchObject({ groups: ['staff-a', 'staff-b'] });
    expect(making(lists(['staff-b'], ['staff-a'])).writes[0]?.after).toMatchObject({ groups: ['staff-b'] });
    expect(making(remove).writes).toEqual([{ kind: 'host', id: 'host-a', before, after: null }]);
  });

  test('what is taken away, or put into what is not there, is filled in as a file would', () => {
    expect(making(fieldsTo('location', 'hall-a', { timeZone: null })).writes[0]?.after).toHaveProperty('timeZone', 'UTC');
    expect(making(fieldsTo('location', 'hall-a', { name: null })).writes[0]?.after).not.toHaveProperty('name', null);
    expect(
      making({ do: 'create', kind: 'location', id: 'new', object: { ...model.locations.get('hall-b'), timeZone: undefined } }).writes[0],
    ).toMatchObject({
      before: null,
      after: { id: 'new', timeZone: 'UTC' },
    });
  });

  test('later steps see earlier ones', () => {
    const { writes, misplaced } = making(remove, host({ drawMs: 1 }), {
      do: 'create',
      kind: 'host',
      id: 'host-a',
      object: model.hosts.get('host-b')!,
    });
    expect(writes[0]?.after).toMatchObject({ id: 'host-a', name: 'Host b' });
    expect(misplaced).toEqual([{ step: 1, hypothesis: false, kind: 'host', id: 'host-a', because: 'not there' }]);
    expect(making(remove, remove).misplaced).toMatchObject([{ step: 1, because: 'not there' }]);
  });

  test('a setting: written into the entry that stands there, or under an id of its own', () => {
    const [write] = making(cap(20)).writes;
    expect(write?.after).toEqual({
      id: 'picture.frameCap-location-hall-a',
      key: 'picture.frameCap',
      layer: 'location',
      target: 'hall-a',
      value: 20,
      locked: false,
    });
    const entry = { key: 'picture.frameCap', layer: 'location', target: 'hall-a', value: 24, locked: true };
    const there = twoPlaces({ setting: { mine: entry } });
    expect(made(there, doing(cap(20)), at).writes).toMatchObject([
      { id: 'mine', before: { value: 24 }, after: { value: 20, locked: true } },
    ]);
    // one with a condition is another entry
    const condition = twoPlaces({ setting: { mine: { ...entry, condition: { guest: true } } } });
    expect(made(condition, doing(cap(20)), at).writes.map(({ id }) => id)).toEqual(['picture.frameCap-location-hall-a']);
    // an id that another entry has already
    const taken = twoPlaces({ setting: { 'picture.frameCap-location-hall-a': { ...entry, target: 'hall-b' } } });
    expect(made(taken, doing(cap(20)), at).writes.map(({ id }) => id)).toEqual(['picture.frameCap-location-hall-a-2']);
    const lists = twoPlaces({ setting: { mine: { ...entry, key: 'redirection.devices', value: ['camera'] } } });
    expect(made(lists, doing(devices('camera', 'printer')), at).writes[0]?.after).toMatchObject({ value: ['camera', 'printer'] });
  });

  test('a move: of those named, or of all in the group they leave; who is where they go already is not written', () => {
    const groups = (...patches: Patch[]) =>
      making(...patches).writes.map(({ id, after }) => `${id}: ${(after as { groups: string[] }).groups.join()}`);
    expect(groups({ do: 'move', leave: 'staff-a', join: 'staff-b' })).toEqual(['ann-a: staff-b']);
    expect(groups({ do: 'move', leave: 'staff-a', join: null })).toEqual(['ann-a: ']);
    expect(groups({ do: 'move', leave: null, join: 'staff-b', people: ['ann-a', 'ann-b'] })).toEqual(['ann-a: staff-a,staff-b']);
    expect(groups({ do: 'move', leave: null, join: 'staff-b' })).toEqual([]);
    expect(
      making({ do: 'move', leave: 'gone', join: 'away', people: ['nobody'] }).misplaced.map(({ kind, id }) => `${kind} ${id}`),
    ).toEqual(['group gone', 'group away']);
    expect(making({ do: 'move', leave: null, join: 'staff-b', people: ['nobody'] }).misplaced).toMatchObject([
      { kind: 'person', id: 'nobody' },
    ]);
  });

  test('screens and decoders that are typed count from the moment they are, to the second; what the change says itself stands', () => {
    const screens = [{ widthPx: 1280, heightPx: 720, scale: 1 }];
    const typed = (set: Record<string, unknown>) => making(fieldsTo('endpoint', 'box-a', set)).writes[0]?.after;
    expect(typed({ screens })).toHaveProperty('screensAt', '2026-11-25T10:00:00Z');
    expect(typed({ screens })).not.toHaveProperty('decodersAt');
    expect(typed({ decoders: [] })).toHaveProperty('decodersAt', '2026-11-25T10:00:00Z');
    expect(typed({ screens, screensAt: '2026-11-01T00:00:00Z' })).toHaveProperty('screensAt', '2026-11-01T00:00:00Z');
    expect(typed({ cores: 2 })).not.toHaveProperty('screensAt');
  });

  test('what is supposed of an object is imagined and not written; what else is supposed is handed on', () => {
    const line = { suppose: 'line', kind: 'location', id: 'hall-a', downMbps: 500 } as const;
    const { writes, all, supposed, misplaced } = made(
      model,
      { patches: [host({ drawMs: 9 })], hypotheses: [{ suppose: 'object', kind: 'host', id: 'host-a', set: { places: 3 } }, line] },
      at,
    );
    expect(writes.map(({ after }) => after)).toMatchObject([{ drawMs: 9, places: 9 }]);
    expect(all.map(({ after }) => after)).toMatchObject([{ drawMs: 9, places: 3 }]);
    expect([supposed, misplaced]).toEqual([[line], []]);
  });
});
