import { expect, test } from '@jest/globals';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { doing, fieldsTo, settingTo } from '../change/index.js';
import { modelOf, type CrossingRef } from '../estate/index.js';
import { definitionOf, obeys, settingKeys } from '../settings/index.js';
import { FactsReader, subjectIn, summariseCrossing } from './index.js';

const { estate, measurements } = demoEstate();
const reader = new FactsReader(modelOf(estate, measurements), demoInstant);
const ignored = settingKeys.flatMap((key) => (definitionOf(key)?.ignoredBy ?? []).map((client) => ({ key, client })));

test.each(ignored)('a $client does not follow $key: nothing comes out otherwise; another client does', ({ key, client }) => {
  const summary = (ref: CrossingRef, clientKind: string, value: boolean) => {
    const patches = [
      ...doing(fieldsTo('endpoint', ref.endpoint, { clientKind })).patches,
      ...doing(settingTo(key, 'endpoint', ref.endpoint, value)).patches,
    ];
    // that it is ignored is told, and is all that is other
    const { kinds: _, ...figures } = summariseCrossing(reader.after({ patches, hypotheses: [] }).read(ref)!) as unknown as Record<
      string,
      unknown
    >;
    return JSON.stringify(figures);
  };
  // somebody for whose work it matters
  const ref = reader.model.crossings.find((each) => summary(each, 'native client', true) !== summary(each, 'native client', false));
  expect(ref).toBeDefined();
  expect(summary(ref!, client, true)).toEqual(summary(ref!, client, false));
  expect([obeys(key, client), obeys(key, 'native client')]).toEqual([false, true]);
});

test('a setting that is in no catalogue is ignored by nobody', () => expect(obeys('nothing.ofThis', 'browser')).toBe(true));

test('what the layers look at: with somebody, with nobody, and where there is nothing', () => {
  const { model } = reader;
  const [ref] = model.crossings;
  expect(subjectIn(model, ref!.endpoint, ref!.person)).toEqual(reader.read(ref!)?.subject);
  expect(subjectIn(model, ref!.endpoint)).toMatchObject({ person: '', groups: [], guest: false, endpoint: ref!.endpoint });
  expect(subjectIn(model, 'nothing')).toBeNull();
  expect(subjectIn(model, ref!.endpoint, 'nobody')).toBeNull();
});
