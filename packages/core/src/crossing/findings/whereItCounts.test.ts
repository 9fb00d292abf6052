import { expect, test } from '@jest/globals';
import type { Layer, Patch, Setting, SettingValue } from '@underpass/contracts';
import { farScenarios } from '../../../test/farScenarios.js';
import { nearScenarios } from '../../../test/nearScenarios.js';
import { otherSides } from '../../../test/otherSides.js';
import { changed, type Scenario } from '../../../test/scenes.js';
import { fieldsTo } from '../../change/index.js';
import { catalogue, type SettingKey } from '../../settings/index.js';
import { computeFigures, evaluateCrossing, type CrossingFacts, type Finding } from '../index.js';

const foundOn = (facts: CrossingFacts, kind: string) => evaluateCrossing(facts).findings.find((finding) => finding.kind === kind);
/** Settings that the remedies of a finding write. */
const keysOf = (finding: Finding | undefined): SettingKey[] => [
  ...new Set(
    (finding?.remedies ?? []).flatMap(({ change }) =>
      change.patches.flatMap((patch) => (patch.do === 'setting' ? [patch.key as SettingKey] : [])),
    ),
  ),
];
/** The settings as they are in force, written once more at a place. */
const asTheyAre = (facts: CrossingFacts, keys: readonly SettingKey[], layer: Layer, target: string): CrossingFacts => {
  const { settings } = computeFigures(facts);
  return changed(facts, ...keys.map((key): Patch => ({ do: 'setting', key, value: settings[key] as SettingValue, layer, target })));
};
const locked = (facts: CrossingFacts, keys: readonly SettingKey[]): CrossingFacts => {
  const written = asTheyAre(facts, keys, 'organisation', '*');
  const entries = [...written.reader.model.all('setting').values()] as Setting[];
  const own = entries.filter(({ key, layer }) => layer === 'organisation' && keys.includes(key as SettingKey));
  return changed(written, ...own.map(({ id }) => fieldsTo('setting', id, { locked: true })));
};

const withSettings = [...nearScenarios, ...farScenarios, ...otherSides].filter(
  ({ kind, from, make }: Scenario) => keysOf(foundOn(make(from), kind)).length > 0,
);

test('there are many findings that a setting mends', () => expect(withSettings.length).toBeGreaterThan(30));

test.each(withSettings)('$kind: mended by a setting also where it is ruled on the endpoint itself', ({ kind, from, make }) => {
  const facts = make(from);
  const keys = keysOf(foundOn(facts, kind));
  const ruled = foundOn(asTheyAre(facts, keys, 'endpoint', facts.endpoint.id), kind);
  expect(keysOf(ruled).sort()).toEqual([...keys].sort());
  const changes = ruled!.remedies.map(({ change }) => JSON.stringify(change)).filter((change) => change.includes('setting'));
  expect(new Set(changes).size).toBe(changes.length);
});

test.each(withSettings)('$kind: where the settings are locked, who has to open them', ({ kind, from, make }) => {
  const facts = make(from);
  const keys = keysOf(foundOn(facts, kind));
  const told = foundOn(locked(facts, keys), kind)!
    .remedies.filter(({ applicable }) => !applicable)
    .map(({ effectText }) => effectText);
  for (const key of keys)
    expect(told).toContain(`“${catalogue[key].label}” is locked for the whole organisation: it has to be opened there first`);
});
