import { describe, expect, test } from '@jest/globals';
import type { Change, Setting, SettingsOf, UsbRule } from '@underpass/contracts';
import { catalogue, settingKeys, type SettingSubject } from '@underpass/core';
import { together, withEntry } from './draftSteps.js';
import { factText, factValue } from './factWords.js';
import { profileFormats, profileOf, profileText, readProfile } from './profileFile.js';
import { bankOf, radiusOf, type Duct } from './redirection/ductGeometry.js';
import { fromBytes, fromText } from './redirection/readDevice.js';
import { differencesOf, madeAs, whoseOf, type SideProfile } from './profileSide.js';
import { carriedText, matchText } from './redirection/words.js';
import { stepsOf } from './stepWords.js';
import { entriesAfter, strataOf, targetOf } from './strata.js';
import { bySubject, settingsFor, subjectWords, valueText } from './valueWords.js';

const subject: SettingSubject = {
  ...{
    deviceClass: 'laptop',
    location: 'hall',
    groups: ['staff', 'planners'],
    person: 'p1',
    endpoint: 'e1',
    ownership: 'managed',
    lineKind: 'fibre',
  },
  ...{ metered: false, clientKind: 'native client', guest: false, inside: false },
};
const cap = (id: string, layer: Setting['layer'], target: string, value: number, more: Partial<Setting> = {}): Setting => ({
  ...{ id, key: 'picture.frameCap', layer, target, value, locked: false },
  ...more,
});
const none: Change = { patches: [], hypotheses: [] };

describe('the catalogue', () => {
  test('is found by name, by key, by what it does, and by what people complain of', () => {
    expect(settingsFor('').length).toBe(settingKeys.length);
    expect(settingsFor('blurred text').map(({ key }) => key)).toContain('picture.chroma');
    expect(settingsFor('second screen black').map(({ key }) => key)).toEqual(['screens.use', 'screens.most', 'screens.mostMegapixels']);
    expect(settingsFor('frameCap')).toEqual([{ key: 'picture.frameCap', symptom: null }]);
    expect(settingsFor('time allowed')).toEqual([{ key: 'security.secondFactorTimeoutS', symptom: null }]);
    expect(settingsFor('nothing of the kind')).toEqual([]);
  });
  test('every setting can be found by a symptom, and stands under a subject that has a name', () => {
    for (const key of settingKeys) {
      const { symptoms = [] } = catalogue[key];
      expect([key, symptoms.length > 0]).toEqual([key, true]);
      for (const symptom of symptoms) expect(settingsFor(symptom).map((each) => each.key)).toContain(key);
    }
    const groups = bySubject(settingsFor(''));
    expect(groups.reduce((sum, { settings }) => sum + settings.length, 0)).toBe(settingKeys.length);
    for (const { subject: name } of groups) expect(subjectWords[name].length).toBeGreaterThan(3);
  });
  test('a value in words', () => {
    expect([
      valueText('picture.frameCap', 30),
      valueText('picture.hardwareEncode', false),
      valueText('redirection.devices', ['-camera']),
    ]).toEqual(['30 a second', 'off', '−camera']);
    expect([valueText('picture.codec', undefined), valueText('signon.domain', ''), valueText('odd', 'x')]).toEqual([
      'not set',
      'empty',
      'x',
    ]);
  });
});

describe('layers as strata', () => {
  const entries = [
    cap('o', 'organisation', '*', 60),
    cap('l', 'location', 'hall', 24, { locked: true }),
    cap('p', 'person', 'p1', 30),
    cap('x', 'endpoint', 'e1', 15, { condition: { guest: true } }),
  ];
  test('each layer says what stands there and why it does not count', () => {
    const { strata, explanation } = strataOf('picture.frameCap', entries, subject);
    expect(strata.map(({ layer, state, locked }) => [layer, state, locked])).toEqual([
      ['endpoint', 'hidden', false],
      ['person', 'hidden', false],
      ['group', 'not set', false],
      ['location', 'in force', true],
      ['device class', 'not set', false],
      ['organisation', 'hidden', false],
    ]);
    expect(strata[0]?.entries[0]?.because).toBe('its condition does not hold');
    expect([explanation.value, explanation.deciding?.id]).toEqual([24, 'l']);
  });
  test('whom a layer stands for: of groups the nearest', () => {
    expect(
      (['organisation', 'device class', 'location', 'group', 'person', 'endpoint'] as const).map((layer) => targetOf(layer, subject)),
    ).toEqual(['*', 'laptop', 'hall', 'planners', 'p1', 'e1']);
    expect(targetOf('group', { ...subject, groups: [] })).toBe('');
  });
  test('with a draft: what comes, what becomes another, what goes; steps of other things are let be', () => {
    const change: Change = {
      patches: [
        { do: 'change', kind: 'setting', id: 'o', set: { value: 50 } },
        { do: 'remove', kind: 'setting', id: 'l' },
        { do: 'create', kind: 'setting', id: 'n', object: cap('n', 'group', 'planners', 45) },
        { do: 'change', kind: 'host', id: 'nowhere', set: { power: 'on' } },
      ],
      hypotheses: [],
    };
    expect(entriesAfter(entries, change).map(({ id, value }) => [id, value])).toEqual([
      ['o', 50],
      ['p', 30],
      ['x', 15],
      ['n', 45],
    ]);
    expect(entriesAfter(entries, none)).toBe(entries);
  });
});

describe('steps of a draft', () => {
  const place = { key: 'picture.frameCap', layer: 'location' as const, target: 'hall' };
  const entry = cap('l', 'location', 'hall', 24);
  test('a value where nothing stands, where something stands, locked, and taken away; twice at one place is once', () => {
    const fresh = withEntry(none, place, { value: 60, locked: true }, undefined);
    expect(fresh.patches).toMatchObject([
      { do: 'create', kind: 'setting', object: { value: 60, locked: true, layer: 'location', target: 'hall' } },
    ]);
    expect(withEntry(fresh, place, { value: 50, locked: false }, undefined).patches).toMatchObject([
      { do: 'create', object: { value: 50, locked: false } },
    ]);
    const other = withEntry(none, place, { value: 60, locked: false }, entry);
    expect(other.patches).toEqual([{ do: 'change', kind: 'setting', id: 'l', set: { value: 60 } }]);
    expect(withEntry(other, place, { value: 24, locked: true }, entry).patches).toEqual([
      { do: 'change', kind: 'setting', id: 'l', set: { locked: true } },
    ]);
    // as it stands now is no step
    expect(withEntry(other, place, { value: 24, locked: false }, entry).patches).toEqual([]);
    expect(withEntry(other, place, null, entry).patches).toEqual([{ do: 'remove', kind: 'setting', id: 'l' }]);
    expect(withEntry(fresh, place, null, undefined).patches).toEqual([]);
    // what is for another place stays
    const two = withEntry(fresh, { ...place, target: 'dock' }, { value: 15, locked: false }, undefined);
    expect(two.patches).toHaveLength(2);
  });
  test('a later step takes the place of an earlier one of the same thing', () => {
    const rank = (n: number): Change => ({ patches: [{ do: 'change', kind: 'usbRule', id: 'a', set: { rank: n } }], hypotheses: [] });
    expect(together(rank(1), rank(2)).patches).toEqual(rank(2).patches);
    expect(together(rank(1), { patches: [{ do: 'remove', kind: 'usbRule', id: 'b' }], hypotheses: [] }).patches).toHaveLength(2);
  });
  test('steps in words', () => {
    expect(
      stepsOf({
        patches: [
          { do: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 60 },
          { do: 'create', kind: 'setting', id: 'n', object: cap('n', 'group', 'planners', 45, { locked: true }) },
          { do: 'change', kind: 'setting', id: 'o', set: { value: 50, locked: false } },
          { do: 'remove', kind: 'setting', id: 'o' },
          { do: 'create', kind: 'usbRule', id: 'r', object: { id: 'r', name: 'Readers' } },
          { do: 'change', kind: 'usbRule', id: 'r', set: { rank: 3 } },
        ],
        hypotheses: [],
      }),
    ).toEqual([
      'Frame rate 60 a second for the whole organisation',
      'Frame rate 45 a second for group planners, locked',
      'Entry o, becomes 50, open again',
      'Entry o is taken away',
      'A rule comes: Readers',
      'The rule r: rank becomes 3',
    ]);
  });
});

describe('a profile as a file', () => {
  const of: SettingsOf = {
    ...{
      subject: { ...subject, groups: [...subject.groups] },
      platform: 'desktop',
      names: { endpoint: 'E', person: null, location: 'H', groups: [] },
    },
    ...{ entries: [{ entry: cap('o', 'organisation', '*', 48), written: null }], at: '', usual: null, past: false },
  };
  test.each(profileFormats)('as %s it comes back as it went', (format) => {
    const profile = profileOf(of);
    expect(profile['picture.frameCap']).toBe(48);
    const read = readProfile(profileText(profile, format));
    expect('fault' in read ? read.fault : read.all).toEqual(profile);
  });
  test.each([
    ['', /is empty/],
    ['{"picture": ', /no JSON/],
    ['[picture]\nframeCap\n', /Line 2 makes no sense/],
    ['a: *b', /no profile/],
    ['a: 1\na: 2', /no profile/],
    ['x'.repeat(500_001), /longer than/],
  ])('what is none is told: %j', (text, says) => {
    const read = readProfile(text);
    expect('fault' in read ? read.fault : 'was read').toMatch(says);
  });
  test('a value that does not fit is told by its key', () => {
    const read = readProfile('picture:\n  frameCap: 1\n  later: x\n');
    expect('fault' in read ? read : read.read).toMatchObject({ unknown: { 'picture.later': 'x' }, faults: [{ key: 'picture.frameCap' }] });
  });
});

describe('two sides of settings', () => {
  const of = (...entries: Setting[]): SettingsOf => ({
    ...{ subject: { ...subject, groups: [...subject.groups] }, platform: 'desktop', usual: null, at: '', past: false },
    names: { endpoint: 'E', person: null, location: 'H', groups: [] },
    entries: entries.map((entry) => ({ entry, written: null })),
  });
  const side = (name: string, profile: SideProfile['profile'], partial = false): SideProfile => ({ name, profile, now: null, partial });
  const here = (...entries: Setting[]) => ({ whose: { kind: 'endpoint' as const, id: 'e1' }, of: of(...entries) });
  const list = (id: string, layer: Setting['layer'], target: string, value: string[]): Setting => ({
    ...{ id, key: 'redirection.devices', layer, target, value, locked: false },
  });

  test('stand in the address, and what names nobody is none', () => {
    expect(whoseOf('person/P001')).toEqual({ kind: 'person', id: 'P001' });
    expect(whoseOf('location/a/b')).toEqual({ kind: 'location', id: 'a/b' });
    for (const none of [null, '', 'person', 'person/', 'group/x', '/x']) expect([none, whoseOf(none)]).toEqual([none, null]);
  });

  test('a file says nothing of what it does not name; somebody beside somebody says all', () => {
    const all = profileOf(of());
    const file = side('f', { 'picture.frameCap': 24, 'picture.later': 'x' }, true);
    expect(differencesOf(side('E', all), file)).toEqual({
      rows: [
        { key: 'picture.frameCap', a: 30, b: 24 },
        { key: 'picture.later', a: undefined, b: 'x' },
      ],
      unnamed: settingKeys.length - 1,
    });
    expect(differencesOf(file, side('E', all)).rows.map(({ key }) => key)).toEqual(['picture.frameCap', 'picture.later']);
    expect(differencesOf(side('E', all), side('F', { ...all, 'picture.frameCap': 24 }))).toMatchObject({ rows: [{ b: 24 }], unnamed: 0 });
  });

  test('one is made as the other: steps at its own layer for what is otherwise and known, and nothing else', () => {
    const { change, stays } = madeAs(
      here(cap('o', 'organisation', '*', 48)),
      side('f', { 'picture.frameCap': 24, 'picture.later': 'x', 'picture.chroma': profileOf(of())['picture.chroma'] as string }, true),
    );
    expect(change.patches).toEqual([{ do: 'setting', key: 'picture.frameCap', layer: 'endpoint', target: 'e1', value: 24 }]);
    expect(stays).toEqual([]);
  });

  test('what a lock holds is told, as it would stay', () => {
    const { stays } = madeAs(here(cap('o', 'organisation', '*', 48, { locked: true })), side('f', { 'picture.frameCap': 24 }, true));
    expect(stays).toEqual(['picture.frameCap']);
  });

  test('a list becomes exactly the other, whatever farther layers add and its own entry took away', () => {
    const before = [list('o', 'organisation', '*', ['camera', 'printer']), list('e', 'endpoint', 'e1', ['-printer', 'scanner'])];
    for (const wanted of [[], ['printer'], ['camera', 'storage'], ['scanner']]) {
      const { change, stays } = madeAs(here(...before), side('f', { 'redirection.devices': wanted }, true));
      const after = entriesAfter(before, change);
      expect([profileOf(of(...after))['redirection.devices'] as string[], stays].map((each) => [...each].sort())).toEqual([
        [...wanted].sort(),
        [],
      ]);
    }
  });
});

describe('rules', () => {
  const rule = (id: string, rank: number, more: Partial<UsbRule> = {}): UsbRule => ({ id, rank, action: 'allow', match: {}, ...more });
  test('a rule in words', () => {
    expect(matchText({})).toBe('everything');
    expect(matchText({ class: '08', ownership: 'personal', group: 'x' })).toBe('08 storage, personal device, group x');
    expect([
      carriedText(rule('a', 1, { action: 'deny' })),
      carriedText(rule('a', 1, { interfaces: ['01'] })),
      carriedText(rule('a', 1)),
    ]).toEqual(['not allowed', 'only 01', 'as is best']);
  });
  test('a device that was pasted or read is one of the endpoint; what makes no sense is told where', () => {
    expect(fromText('nothing', 'e1')).toMatchObject({ fault: expect.stringMatching(/^Line 1: it holds no device/) });
    expect(fromBytes(Uint8Array.from([18, 1]), 'e1')).toMatchObject({ fault: expect.stringMatching(/^Byte 0:/) });
  });
});

describe('ducts in their block', () => {
  const duct = (name: string, more: Partial<Duct> = {}): Duct => ({
    ...{
      name,
      direction: 'to the session',
      carriedAs: 'channel',
      mbps: 1,
      exchanges: 0,
      addedMs: 0,
      claimedTwice: false,
      rule: null,
      why: '',
    },
    ...more,
  });
  test('the area is in proportion to what is asked, and none is too small to be seen', () => {
    expect(radiusOf(4, 4) / radiusOf(1, 4)).toBeCloseTo(2, 9);
    expect(2 * radiusOf(0, 4)).toBeGreaterThanOrEqual(10);
  });
  test('what goes through lies in the block, by direction; what stays at the desk outside it', () => {
    const bank = bankOf([duct('a'), duct('b', { direction: 'back to the desk' }), duct('c', { carriedAs: 'local only' })]);
    const { block } = bank;
    const at = (name: string) => bank.placed.find((each) => each.duct.name === name)!;
    for (const name of ['a', 'b']) expect(at(name).x).toBeLessThan(block.x + block.width);
    expect(at('c').x).toBeGreaterThan(block.x + block.width);
    expect([at('a').y < bank.middle, at('b').y > bank.middle]).toEqual([true, true]);
    expect(bankOf([]).placed).toEqual([]);
  });
});

test('facts of two crossings in words: nothing is left as a program writes it', () => {
  expect(factText('endpoint.connection')).toBe('Connection of the endpoint');
  expect(factText('picture.frameCap')).toBe('Frame rate, a setting');
  expect(factText('others on the line')).toBe('Others on the line');
  expect(factValue('x', { lost: 2, passes: true, none: null })).toBe('lost 2, passes yes');
  expect(factValue('x', { p95Ms: 4.3, meanMbps: 2, refreshHz: 60, udp: true, encoderMacroblocksPerS: 9 })).toBe(
    'p95 ms 4.3, mean Mbit/s 2, refresh Hz 60, UDP yes, encoder macroblocks per s 9',
  );
  expect([
    factValue('x', null),
    factValue('x', []),
    factValue('x', [1, 2]),
    factValue('picture.frameCap', 30),
    factValue('x', 0.12345),
  ]).toEqual(['not known', 'none', '1; 2', '30 a second', '0.12']);
});
